package standin

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// after are the words behind which the name of a table stands.
var after = []string{"from", "join", "into", "update"}

// plain are the words that may stand behind a table's name without being another for it.
var plain = []string{"where", "on", "join", "inner", "left", "right", "full", "cross", "group", "order", "having", "union", "except", "intersect", "limit", "set", "values", "select", "default", "using", "window", "offset", "fetch", "with", "option", "for"}

// readable is a text of the system as SQLite reads it: its words in SQLite's spelling, and each
// table under the name that it is stored by.
func (s *Session) readable(text string) string {
	tokens := make([]sqllex.Token, 0, len(text)/2)
	s.m.kind.Lexis().Each(text, func(t sqllex.Token) bool {
		switch t.Kind {
		case sqllex.Comment:
			t = sqllex.Token{Kind: sqllex.Space, Text: " "}
		case sqllex.Space:
		case sqllex.Quoted:
			t.Text = Quote(t.Name())
		case sqllex.String:
			if t.Text[0]|0x20 == 'n' {
				t.Text = t.Text[1:]
			}
		}
		tokens = append(tokens, t)
		return true
	})
	tokens = s.m.kind.Spell(s, tokens)
	words := make([]int, 0, len(tokens)/2) // places of the tokens that mean something
	for i, t := range tokens {
		if !t.Blank() {
			words = append(words, i)
		}
	}
	at := func(k int) sqllex.Token {
		if k < 0 || k >= len(words) {
			return sqllex.Token{Kind: sqllex.Space}
		}
		return tokens[words[k]]
	}
	isName := func(t sqllex.Token) bool { return t.Kind == sqllex.Word || t.Kind == sqllex.Quoted }
	name := func(t sqllex.Token) string { // a bare word is taken as the system takes it
		if t.Kind == sqllex.Word && s.Fold != nil {
			return s.Fold(t.Text)
		}
		return t.Name()
	}
	listed := listed(at, len(words))
	inFrom := func(k int) bool {
		before := at(k - 1)
		return before.Kind == sqllex.Word && slices.Contains(after, strings.ToLower(before.Text)) || listed[k]
	}
	for k := 0; k < len(words); k++ {
		if !isName(at(k)) || at(k-1).Is(".") {
			continue
		}
		first, last := k, k
		if at(k+1).Is(".") && at(k+3).Is(".") && isName(at(k+2)) && isName(at(k+4)) && name(at(k)) == s.m.Catalog.Database {
			first = k + 2 // the database's name in front
		}
		var ref catalog.Ref
		switch {
		case at(first+1).Is(".") && isName(at(first+2)):
			ref, last = catalog.Ref{Schema: name(at(first)), Table: name(at(first + 2))}, first+2
		case inFrom(k):
			for _, home := range s.Path {
				if ref = (catalog.Ref{Schema: home, Table: name(at(k))}); s.m.relation(ref) {
					break
				}
			}
		}
		if ref.Table == "" || !s.m.relation(ref) && !(inFrom(k) && last > k) {
			continue
		}
		s.systems = s.systems || s.m.views[ref]
		text := stored(ref)
		switch next := at(last + 1); {
		case next.Is("."): // of a column
			text = Quote(ref.Table)
		case inFrom(k) && !at(k-1).Is("into") && !next.Is("as") && (!isName(next) || next.Kind == sqllex.Word && slices.Contains(plain, strings.ToLower(next.Text))):
			text += " AS " + Quote(ref.Table)
		}
		tokens[words[k]] = sqllex.Token{Kind: sqllex.Quoted, Text: text}
		for i := words[k] + 1; i <= words[last]; i++ {
			tokens[i] = sqllex.Token{Kind: sqllex.Space}
		}
		k = last
	}
	var b strings.Builder
	for _, t := range tokens {
		b.WriteString(t.Text)
	}
	return strings.TrimSuffix(strings.TrimSpace(b.String()), ";")
}

// listed are the places of the tables that stand behind a comma of a FROM.
func listed(at func(int) sqllex.Token, n int) map[int]bool {
	places := map[int]bool{}
	in := []bool{false} // by the depth of brackets
	for k := range n {
		t, depth := at(k), len(in)-1
		switch {
		case t.Is("("):
			in = append(in, false)
		case t.Is(")") && depth > 0:
			in = in[:depth]
		case t.Is("FROM"):
			in[depth] = true
		case t.Is("WHERE"), t.Is("GROUP"), t.Is("ORDER"), t.Is("HAVING"), t.Is("UNION"), t.Is("SELECT"), t.Is("SET"), t.Is("VALUES"):
			in[depth] = false
		case t.Is(",") && in[depth]:
			places[k+1] = true
		}
	}
	return places
}
