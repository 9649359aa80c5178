// Package sqlexpr reads SQL expressions by their tokens, for the engines whose dialects
// the lexer knows. It understands little, on purpose: what it does not understand it says
// nothing of.
package sqlexpr

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// Reader implements [catalog.Expressions] for a dialect.
type Reader struct{ Dialect sqllex.Dialect }

func (r Reader) tokens(expression string) []sqllex.Token { return r.Dialect.Meaning(expression) }

// Mentions leaves out names of functions and of types that a value is cast to.
func (r Reader) Mentions(expression, column string) bool {
	tokens := r.tokens(expression)
	for i, t := range tokens {
		if !t.Names(column) {
			continue
		}
		call := t.Kind == sqllex.Word && i+1 < len(tokens) && tokens[i+1].Is("(")
		cast := i > 1 && tokens[i-1].Is(":") && tokens[i-2].Is(":")
		if !call && !cast {
			return true
		}
	}
	return false
}

// NotNull takes "a IS NOT NULL", joined by AND and in any brackets.
func (r Reader) NotNull(expression string) []string {
	p := &parser{Cursor: sqllex.Cursor{Tokens: r.tokens(expression)}, capitals: r.Dialect.Capitals}
	columns, ok := p.conjunction()
	if !ok || !p.Done() {
		return nil
	}
	return columns
}

// parser reads conjunctions of not-null conditions.
type parser struct {
	sqllex.Cursor
	capitals bool // a bare name stands for its capitals
}

func (p *parser) conjunction() ([]string, bool) {
	columns, ok := p.condition()
	for ok && p.Take("and") {
		var more []string
		more, ok = p.condition()
		columns = append(columns, more...)
	}
	return columns, ok
}

func (p *parser) condition() ([]string, bool) {
	if p.bracketed() {
		p.Take("(")
		columns, ok := p.conjunction()
		return columns, ok && p.Take(")")
	}
	name, ok := p.column()
	if !ok || !p.Take("is", "not", "null") {
		return nil, false
	}
	return []string{name}, true
}

// bracketed reports whether a bracket that opens here encloses conditions, and not the
// name of a column alone.
func (p *parser) bracketed() bool {
	return p.Is("(") && !(isName(p.Peek(1)) && p.Peek(2).Is(")"))
}

// column takes a name, which may stand in brackets or behind its table's.
func (p *parser) column() (string, bool) {
	if p.Take("(") {
		name, ok := p.column()
		return name, ok && p.Take(")")
	}
	t, _ := p.Next()
	if !isName(t) {
		return "", false
	}
	name := t.Name()
	if p.capitals && t.Kind == sqllex.Word {
		name = strings.ToUpper(name)
	}
	if p.Take(".") {
		return p.column()
	}
	return name, true
}

func isName(t sqllex.Token) bool { return t.Kind == sqllex.Word || t.Kind == sqllex.Quoted }

// Plain keeps the tokens as they are written.
func (r Reader) Plain(expression string) string {
	var kept []sqllex.Token
	r.Dialect.Each(expression, func(t sqllex.Token) bool {
		switch {
		case !t.Blank():
			kept = append(kept, t)
		case len(kept) > 0 && kept[len(kept)-1].Kind != sqllex.Space:
			kept = append(kept, sqllex.Token{Kind: sqllex.Space, Text: " "})
		}
		return true
	})
	kept = trimmed(kept)
	for len(kept) > 1 && kept[0].Is("(") && closes(kept) == len(kept)-1 {
		kept = trimmed(kept[1 : len(kept)-1])
	}
	var b strings.Builder
	for _, t := range kept {
		b.WriteString(t.Text)
	}
	return b.String()
}

func trimmed(tokens []sqllex.Token) []sqllex.Token {
	for len(tokens) > 0 && tokens[0].Kind == sqllex.Space {
		tokens = tokens[1:]
	}
	for len(tokens) > 0 && tokens[len(tokens)-1].Kind == sqllex.Space {
		tokens = tokens[:len(tokens)-1]
	}
	return tokens
}

// closes is the place of what closes the first bracket, or -1.
func closes(tokens []sqllex.Token) int {
	depth := 0
	for i, t := range tokens {
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

var _ catalog.Expressions = Reader{}
