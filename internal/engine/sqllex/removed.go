package sqllex

// Truncated are the names of the tables that each TRUNCATE of a text empties, strings in it included.
func Truncated(d Dialect, text string) [][]Token {
	var all [][]Token
	tokens := Inner(d, text)
	for i, t := range tokens {
		if !t.Is("truncate") || i+1 < len(tokens) && tokens[i+1].Is("(") { // a function of numbers
			continue
		}
		var names []Token
		for _, n := range tokens[i+1:] {
			if n.Kind != Word && n.Kind != Quoted && !n.Is(",") && !n.Is(".") {
				break
			}
			names = append(names, n)
		}
		all = append(all, names)
	}
	return all
}

// Removed are the names of the tables that a text drops or gives another name, strings in it included.
func Removed(d Dialect, text string) []Token {
	var all []Token
	c := Cursor{Tokens: Inner(d, text)}
	name := func() Token {
		c.ToLast()
		t, _ := c.Next()
		return t
	}
	names := func() {
		for {
			if t := name(); t.Kind == Word || t.Kind == Quoted {
				all = append(all, t)
			}
			if c.Take("to") { // of RENAME TABLE a TO b, c TO d
				name()
			}
			if !c.Take(",") {
				return
			}
		}
	}
	for !c.Done() {
		switch {
		case c.Take("drop", "table"), c.Take("rename", "table"):
			c.Take("if", "exists")
			names()
		case c.Take("alter", "table"):
			c.Take("if", "exists")
			c.Take("only")
			if t := name(); c.Is("rename", "to") || c.Is("rename", "as") {
				all = append(all, t)
			}
		default:
			c.At++
		}
	}
	return all
}
