package sqllex

import (
	"slices"
	"strings"
)

// A Whole is a statement that takes all columns of something and rests on how many those are.
type Whole struct {
	tokens []Token
	of     []Token // what stands before the dot of each star; none: all that it names
	every  bool    // a star of all that it names
	// Row: it takes all columns of the row that a trigger is fired for.
	Row bool
	// Returned: it rests on them as what a routine returns, and on nothing else.
	Returned bool
}

// Of reports whether the columns may be those of what bears the name.
func (w Whole) Of(name string) bool {
	at := slices.IndexFunc(w.tokens, func(t Token) bool { return t.Names(name) })
	if at < 0 {
		return false
	}
	return w.every || slices.ContainsFunc(w.of, func(q Token) bool { return q.Names(name) || w.derived(q) || w.calls(name, q) })
}

// calls reports whether the statement calls what bears the name by the other one.
func (w Whole) calls(name string, other Token) bool {
	for i, t := range w.tokens {
		if !t.Names(name) {
			continue
		}
		if i+1 < len(w.tokens) && w.tokens[i+1].Is("as") {
			i++
		}
		if i+1 < len(w.tokens) && w.tokens[i+1].Names(other.Name()) {
			return true
		}
	}
	return false
}

// derived reports whether the name is that of a query within the statement.
func (w Whole) derived(q Token) bool {
	for i, t := range w.tokens {
		if !t.Names(q.Name()) {
			continue
		}
		before := i - 1
		if before >= 0 && w.tokens[before].Is("as") {
			before--
		}
		if before >= 0 && w.tokens[before].Is(")") || i+2 < len(w.tokens) && w.tokens[i+1].Is("as") && w.tokens[i+2].Is("(") {
			return true
		}
	}
	return false
}

// Wholes are the statements of a program's text, and of the strings in it, that take all columns of
// something where their number counts: into a table, beside another query, as a value, as what a routine returns
// that returns rows, and, in some dialects, into variables or through a cursor. TABLE is a query that does.
func Wholes(d Dialect, text string, returns bool) []Whole {
	var all []Whole
	tokens := Inner(d, text)
	// Of a program that does not say what it returns, as one that is plain SQL, any statement may be it.
	may := returns && (handsOn(tokens) || !has(tokens, "return"))
	for len(tokens) > 0 {
		end := slices.IndexFunc(tokens, func(t Token) bool { return t.Is(";") })
		if end < 0 {
			end = len(tokens)
		}
		if w, ok := whole(d, tokens[:end], may || returns && has(tokens[:end], "return")); ok {
			all = append(all, w)
		}
		tokens = tokens[min(end+1, len(tokens)):]
	}
	return all
}

// handsOn reports whether a routine returns a row that it holds in a variable.
func handsOn(tokens []Token) bool {
	for i, t := range tokens {
		if !t.Is("return") || i+2 >= len(tokens) {
			continue
		}
		next := tokens[i+1]
		if next.Is("next") {
			next = tokens[i+2]
		}
		if !next.Is(";") && !next.Is("query") {
			return true
		}
	}
	return false
}

func has(tokens []Token, words ...string) bool {
	return slices.ContainsFunc(tokens, func(t Token) bool { return t.among(words...) })
}

func (t Token) among(words ...string) bool { return slices.ContainsFunc(words, t.Is) }

// whole reads one statement; returned: what it finds may be what the program returns.
func whole(d Dialect, tokens []Token, returned bool) (Whole, bool) {
	w := Whole{tokens: tokens}
	value := false
	at := func(i int) Token {
		if i < 0 || i >= len(tokens) {
			return Token{}
		}
		return tokens[i]
	}
	begins := func(i int) { // of the query in which the star at i stands
		for i > 0 && !at(i).Is("select") && !at(i).Is("table") {
			i--
		}
		if at(i-1).Is("(") && at(i-2).among("in", "any", "some", "all", "array", "=", "<", ">", "<>", "!=", "<=", ">=") {
			value = true
		}
	}
	for i, t := range tokens {
		before := at(i - 1)
		given := t.Is("*") && at(i-2).Is("$") && strings.HasSuffix(before.Text, ".") // $1.*, which may be either row
		switch {
		case given:
			w.Row = true
			continue
		case t.Is("table") && startsQuery(before) && (at(i+1).Kind == Word || at(i+1).Kind == Quoted):
		case !t.Is("*"), !before.Is("select") && !before.Is("distinct") && !before.Is("all") && !before.Is("returning") && !before.Is(",") && !before.Is("."):
			continue
		case at(i-2).Is("(") && at(i-3).Is("exists"):
			continue
		case before.Is("."):
			if q := at(i - 2); q.Is("new") || q.Is("old") {
				w.Row = true
			} else if q.Is(")") { // (NEW).*
				w.Row = w.Row || at(i-3).Is("new") || at(i-3).Is("old") || at(i-4).Is("$")
				w.every = true
			} else {
				w.of = append(w.of, q)
			}
			begins(i)
			continue
		}
		w.every = true
		begins(i)
	}
	if !w.Row && !w.every && len(w.of) == 0 {
		return w, false
	}
	counts := value || has(tokens, "insert", "union", "except", "intersect", "minus") || has(tokens, "replace") && has(tokens, "into") || d.CountsInto && has(tokens, "into", "cursor")
	w.Returned = !counts
	return w, counts || returned
}

// startsQuery reports whether TABLE behind the word is a query, and not part of a definition.
func startsQuery(before Token) bool {
	return !before.among("create", "alter", "drop", "lock", "truncate", "analyze", "optimize", "repair", "check", "temp", "temporary", "unlogged", "foreign", "external", "returns", "on", "rename", "replace", "cascade", "of", "with", "only", "if", "or", ".")
}
