package sqllex

import "strings"

// A Conflict is an INSERT ... ON CONFLICT (columns): the engine refuses it without a unique index on
// just these columns.
type Conflict struct {
	Table   string
	Columns []string
	Others  bool // there are expressions among them
}

// Conflicts are those of the statements of a text, also those in its strings.
func Conflicts(d Dialect, text string) []Conflict {
	if !d.Infers || !strings.Contains(strings.ToUpper(text), "CONFLICT") {
		return nil
	}
	var all []Conflict
	words := Inner(d, text)
	is := func(i int, word string) bool { return i >= 0 && i < len(words) && words[i].Is(word) }
	table := ""
	for i := 0; i < len(words); i++ {
		switch {
		case is(i, "INTO") && i+1 < len(words):
			at := i + 1
			for is(at+1, ".") && at+2 < len(words) {
				at += 2
			}
			table = words[at].Name()
		case is(i, "ON") && is(i+1, "CONFLICT") && is(i+2, "("):
			c := Conflict{Table: table}
			depth, first := 1, true // whether an item begins
			for i += 3; i < len(words) && depth > 0; i++ {
				w := words[i]
				switch {
				case w.Is("("):
					c.Others, first = true, false
					depth++
				case w.Is(")"):
					depth--
				case depth > 1:
				case w.Is(","):
					first = true
				case first && (w.Kind == Word || w.Kind == Quoted) && !is(i+1, "("):
					c.Columns, first = append(c.Columns, w.Name()), false
				case first:
					c.Others, first = true, false
				}
			}
			i--
			all = append(all, c)
		}
	}
	return all
}
