package sqllex

import "slices"

// An Insert is a place of a text where rows are put into a table.
type Insert struct {
	Table   Token   // the last part of its name
	Columns []Token // those that it names, in its order
	Listed  bool    // it names columns at all, or takes all defaults
	Nulls   []int   // places of its values that are a plain NULL
	Plain   []Plain // values that are one plain string or number
	Replace bool    // it takes the place of rows with the same keys
}

// Plain is a value that is a plain string or number.
type Plain struct {
	At    int // its place
	Value Token
}

// plain is the one token of a value that is a plain string or number, its sign included.
func plain(value []Token) (Token, bool) {
	if len(value) == 2 && value[0].Is("-") && value[1].Kind == Number {
		return Token{Number, "-" + value[1].Text, value[0].Start, value[1].End}, true
	}
	if len(value) != 1 || value[0].Kind != String && value[0].Kind != Number {
		return Token{}, false
	}
	return value[0], true
}

// Inserts are those of a text, in its order, and of the strings in it, which may be a routine's
// body or what it executes: INSERT INTO and REPLACE INTO in the forms of all dialects, but not the
// INSERT of a MERGE.
func Inserts(d Dialect, text string) []Insert { return inserts(d, text, 0) }

func inserts(d Dialect, text string, depth int) []Insert {
	var all []Insert
	tokens := d.Meaning(text)
	verb := ""
	for i, t := range tokens {
		if within, ok := code(t, depth); ok {
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
				in.Replace = verb == "replace"
				all = append(all, in)
			}
		}
	}
	return all
}

// code is the text of a string that may hold statements.
func code(t Token, depth int) (string, bool) {
	if t.Kind != String || depth > 2 || len(t.Text) < len("update a set b") {
		return "", false
	}
	if within, ok := t.InDollars(); ok {
		return within, true
	}
	return t.Name(), true
}

// An Update is a place of a text where columns of a table are set.
type Update struct {
	Table Token // the last part of its name; without a text where a string is a part of the statement, and does not tell
	Sets  []Assignment
}

// An Assignment is a column and what it is set to.
type Assignment struct {
	Column Token
	Value  []Token
}

// Null reports whether that is a plain NULL.
func (a Assignment) Null() bool { return len(a.Value) == 1 && a.Value[0].Is("null") }

// Moves reports whether it is reckoned from what the column held.
func (a Assignment) Moves() bool {
	return slices.ContainsFunc(a.Value, func(t Token) bool { return t.Names(a.Column.Name()) }) && slices.ContainsFunc(a.Value, func(t Token) bool { return t.Is("+") || t.Is("-") || t.Is("*") })
}

// Plain is the value, where it is one plain string or number.
func (a Assignment) Plain() (Token, bool) { return plain(a.Value) }

// Updates are those of a text, in its order, and of the strings in it. SET in ON DUPLICATE KEY,
// ON CONFLICT and MERGE, behind no name of a table, is left out.
func Updates(d Dialect, text string) []Update { return updates(d, text, 0) }

func updates(d Dialect, text string, depth int) []Update {
	var all []Update
	told := false
	tokens := d.Meaning(text)
	for i, t := range tokens {
		if within, ok := code(t, depth); ok {
			all = append(all, updates(d, within, depth+1)...)
			continue
		}
		switch {
		case t.Is("update"):
			told = true
			if u, ok := updateAt(tokens[i+1:]); ok && len(u.Sets) > 0 {
				all = append(all, u)
			}
		case t.Is("set") && depth > 0 && !told: // 'UPDATE ' || name || ' SET a = NULL'
			if sets := assigned(tokens[i+1:]); len(sets) > 0 {
				all = append(all, Update{Sets: sets})
			}
		}
	}
	return all
}

// updateAt reads what stands behind UPDATE: UPDATE OR IGNORE t AS x SET a = 1, b = NULL.
func updateAt(tokens []Token) (Update, bool) {
	r := &Cursor{Tokens: tokens}
	for _, word := range []string{"or", "ignore", "replace", "abort", "fail", "rollback", "only", "low_priority"} {
		r.Take(word)
	}
	var u Update
	for {
		t, ok := r.Next()
		if !ok || t.Kind != Word && t.Kind != Quoted || t.Is("set") {
			return u, false
		}
		if u.Table = t; !r.Take(".") {
			break
		}
	}
	for n := 0; !r.Take("set"); n++ { // an alias
		if t, ok := r.Next(); !ok || n > 1 || t.Kind != Word && t.Kind != Quoted {
			return u, false
		}
	}
	u.Sets = assigned(r.Tokens[r.At:])
	return u, true
}

// assigned are the columns that are set one by one behind SET.
func assigned(tokens []Token) []Assignment {
	var all []Assignment
	depth, from := 0, 0
	take := func(to int) {
		if at := slices.IndexFunc(tokens[from:to], func(t Token) bool { return t.Is("=") }); at > 0 && from+at+1 < to && !tokens[from+at-1].Is(")") {
			all = append(all, Assignment{tokens[from+at-1], tokens[from+at+1 : to]})
		}
		from = to + 1
	}
	for i, t := range tokens {
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		case depth == 0 && t.Is(","):
			take(i)
		case depth == 0 && (t.Is("where") || t.Is("from") || t.Is(";") || t.Is("returning") || t.Is("order") || t.Is("limit")):
			take(i)
			return all
		}
		if depth < 0 {
			take(i)
			return all
		}
	}
	take(len(tokens))
	return all
}

// insertAt reads what stands behind INTO.
func insertAt(tokens []Token) (Insert, bool) {
	r := &Cursor{Tokens: tokens}
	in := Insert{}
	for {
		t, ok := r.Next()
		if !ok || t.Kind != Word && t.Kind != Quoted {
			return in, false
		}
		if in.Table = t; !r.Take(".") {
			break
		}
	}
	if r.Take("as") {
		r.Next()
	}
	switch {
	case r.Take("default", "values"), r.Take("(", ")"):
		in.Listed = true
	case r.Is("(") && !r.Is("(", "select") && !r.Is("(", "with") && !r.Is("(", "values"):
		in.Listed = true
		for _, part := range r.Parts() {
			if len(part) > 0 {
				in.Columns = append(in.Columns, part[len(part)-1])
			}
		}
	case r.Take("set"): // a = 1, b = 2
		in.Listed = true
		for before, more := r.Next(); more && !before.Is(";"); before, more = r.Next() {
			if r.Is("=") {
				in.Columns = append(in.Columns, before)
			}
		}
	}
	if r.Is("overriding") { // OVERRIDING SYSTEM VALUE
		r.At += 3
	}
	if r.Take("values") || r.Take("value") {
		for r.Is("(") {
			for i, part := range r.Parts() {
				if len(part) == 1 && part[0].Is("null") && !slices.Contains(in.Nulls, i) {
					in.Nulls = append(in.Nulls, i)
				}
				if value, ok := plain(part); ok {
					in.Plain = append(in.Plain, Plain{i, value})
				}
			}
			r.Take(",")
		}
	}
	return in, true
}
