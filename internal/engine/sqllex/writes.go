package sqllex

import "strings"

// A Write is a place of a text where rows of a table are added, altered or removed.
type Write struct {
	Verb      string  // "insert", "update" or "delete"
	Table     Token   // the last part of its name
	Columns   []Token // those that an update sets
	Copies    bool    // an insert reads rows of the table itself
	Statement int     // which one of the text's it belongs to: one may hold others in brackets
}

// reads reports whether the statement that goes on so reads from the table.
func reads(tokens []Token, table Token) bool {
	for i, t := range tokens {
		if t.Is(";") {
			return false
		}
		before := i - 1
		for before > 1 && tokens[before].Is(".") { // its schema
			before -= 2
		}
		if before >= 0 && strings.EqualFold(t.Name(), table.Name()) && tokens[before].among("from", "join") {
			return true
		}
	}
	return false
}

// Writes are those of a text, in its order, and of the strings in it.
func Writes(d Dialect, text string) []Write {
	var all []Write
	c := Cursor{Tokens: Inner(d, text)}
	depth, statement := 0, 0
	begun := false // something was found in the statement
	end := func() {
		if begun {
			statement++
		}
		begun = false
	}
	add := func(w Write) {
		w.Statement, begun = statement, true
		all = append(all, w)
		if depth == 0 {
			end() // semicolons may be left out
		}
	}
	for {
		before := c.Peek(-1)
		t, ok := c.Next()
		if !ok {
			return all
		}
		switch {
		case t.Is(";"):
			end()
			depth = 0
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		case t.Is("insert"), t.Is("replace"):
			for c.Take("or") || c.Take("ignore") || c.Take("replace") || c.Take("abort") || c.Take("fail") || c.Take("rollback") {
			}
			if c.Take("into") {
				if in, ok := insertAt(c.Tokens[c.At:]); ok {
					add(Write{Verb: "insert", Table: in.Table, Copies: reads(c.Tokens[c.At:], in.Table)})
				}
			}
		case t.Is("update") && !before.among("for", "on", "or", "after", "before", "of", ",", "instead", "do"):
			if u, ok := updateAt(c.Tokens[c.At:]); ok && len(u.Sets) > 0 {
				w := Write{Verb: "update", Table: u.Table}
				for _, set := range u.Sets {
					w.Columns = append(w.Columns, set.Column)
				}
				add(w)
			}
		case t.Is("delete") && !before.among("on", "or", "after", "before", "of", ",", "instead"):
			from := c.Take("from")
			c.Take("only")
			c.ToLast()
			if name := c.Peek(0); (name.Kind == Word || name.Kind == Quoted) && (from || !name.among("on", "or", "of")) {
				add(Write{Verb: "delete", Table: name})
			}
		}
	}
}
