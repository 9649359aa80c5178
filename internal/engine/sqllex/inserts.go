package sqllex

// InsertsWhole reports whether a text inserts rows into a table without saying into which columns: it
// fails once the table has one more. is tells the table by its name's token.
func InsertsWhole(d Dialect, text string, is func(Token) bool) bool {
	var before, last Token // what is meant: words and signs
	found := false
	named := false
	d.Each(text, func(t Token) bool {
		if t.Blank() {
			return true
		}
		if named && !t.Is("(") && !t.Is(".") && !t.Is("as") && !t.Is("default") && !t.Is("using") {
			found = true
		}
		before, last = last, t
		named = before.Is("into") && is(last)
		return !found
	})
	return found
}
