package sqllex

import "slices"

// An Insert is a place of a text where rows are put into a table.
type Insert struct {
	Table   Token   // the last part of its name
	Columns []Token // those that it names, in its order
	Listed  bool    // it names columns at all, or takes all defaults
	Nulls   []int   // places of its values that are a plain NULL
}

// Inserts are those of a text, in its order, and of the strings in it, which may be a routine's
// body or what it executes: INSERT INTO and REPLACE INTO in the forms of all dialects, but not the
// INSERT of a MERGE.
func Inserts(d Dialect, text string) []Insert { return inserts(d, text, 0) }

func inserts(d Dialect, text string, depth int) []Insert {
	var all []Insert
	tokens := slices.DeleteFunc(d.Tokens(text), Token.Blank)
	verb := ""
	for i, t := range tokens {
		if t.Kind == String && depth < 3 && len(t.Text) > len("insert into") {
			within, ok := t.InDollars()
			if !ok {
				within = t.Name()
			}
			all = append(all, inserts(d, within, depth+1)...)
			continue
		}
		for _, word := range []string{"insert", "replace", "select", "merge", "update", "returning", "fetch", "execute"} {
			if t.Is(word) && !(i+1 < len(tokens) && tokens[i+1].Is("(") && word != "select") {
				verb = word
			}
		}
		if t.Is("into") && (verb == "insert" || verb == "replace") {
			if in, ok := insertAt(tokens[i+1:]); ok {
				all = append(all, in)
			}
		}
	}
	return all
}

// insertAt reads what stands behind INTO.
func insertAt(tokens []Token) (Insert, bool) {
	r := &inserting{tokens}
	in := Insert{}
	for {
		t, ok := r.take()
		if !ok || t.Kind != Word && t.Kind != Quoted {
			return in, false
		}
		if in.Table = t; !r.skip(".") {
			break
		}
	}
	if r.skip("as") {
		r.take()
	}
	switch {
	case r.skip("default", "values"), r.skip("(", ")"):
		in.Listed = true
	case r.at("(") && !r.at("(", "select") && !r.at("(", "with") && !r.at("(", "values"):
		in.Listed = true
		for _, part := range r.list() {
			if len(part) > 0 {
				in.Columns = append(in.Columns, part[len(part)-1])
			}
		}
	case r.skip("set"): // a = 1, b = 2
		in.Listed = true
		for i := range r.tokens {
			if r.tokens[i].Is(";") {
				break
			}
			if i > 0 && r.tokens[i].Is("=") {
				in.Columns = append(in.Columns, r.tokens[i-1])
			}
		}
	}
	for len(r.tokens) > 0 && r.at("overriding") { // OVERRIDING SYSTEM VALUE
		r.tokens = r.tokens[min(3, len(r.tokens)):]
	}
	if r.skip("values") || r.skip("value") {
		for r.at("(") {
			for i, part := range r.list() {
				if len(part) == 1 && part[0].Is("null") && !slices.Contains(in.Nulls, i) {
					in.Nulls = append(in.Nulls, i)
				}
			}
			r.skip(",")
		}
	}
	return in, true
}

// inserting takes tokens off the front.
type inserting struct{ tokens []Token }

func (r *inserting) take() (Token, bool) {
	if len(r.tokens) == 0 {
		return Token{}, false
	}
	t := r.tokens[0]
	r.tokens = r.tokens[1:]
	return t, true
}

func (r *inserting) at(words ...string) bool {
	for i, word := range words {
		if i >= len(r.tokens) || !r.tokens[i].Is(word) {
			return false
		}
	}
	return true
}

func (r *inserting) skip(words ...string) bool {
	if !r.at(words...) {
		return false
	}
	r.tokens = r.tokens[len(words):]
	return true
}

// list takes what stands in brackets, part by part.
func (r *inserting) list() [][]Token {
	parts, depth := [][]Token{nil}, 0
	for {
		t, ok := r.take()
		switch {
		case !ok, depth == 1 && t.Is(")"):
			return parts
		case t.Is("("):
			if depth++; depth == 1 {
				continue
			}
		case t.Is(")"):
			depth--
		case depth == 1 && t.Is(","):
			parts = append(parts, nil)
			continue
		}
		parts[len(parts)-1] = append(parts[len(parts)-1], t)
	}
}
