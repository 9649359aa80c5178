package sqllex

import "strings"

// A Conflict is an INSERT ... ON CONFLICT (columns) or ON CONFLICT ON CONSTRAINT: the engine refuses it
// without a unique index on just these columns, or without the constraint.
type Conflict struct {
	Table      string
	Columns    []string
	Others     bool // there are expressions among them
	Constraint Token
}

// Conflicts are those of the statements of a text, also those in its strings.
func Conflicts(d Dialect, text string) []Conflict {
	if !d.Infers || !strings.Contains(strings.ToUpper(text), "CONFLICT") {
		return nil
	}
	var all []Conflict
	c := Cursor{Tokens: Inner(d, text)}
	table := ""
	for !c.Done() {
		switch {
		case c.Take("INTO"):
			c.ToLast()
			table = c.Peek(0).Name()
		case c.Take("ON", "CONFLICT", "ON", "CONSTRAINT"):
			all = append(all, Conflict{Table: table, Constraint: c.Peek(0)})
		case c.Take("ON", "CONFLICT") && c.Is("("):
			of := Conflict{Table: table}
			for _, part := range c.Parts() {
				if len(part) > 0 && (part[0].Kind == Word || part[0].Kind == Quoted) && !(len(part) > 1 && part[1].Is("(")) {
					of.Columns = append(of.Columns, part[0].Name())
				} else {
					of.Others = true
				}
			}
			all = append(all, of)
		default:
			c.At++
		}
	}
	return all
}
