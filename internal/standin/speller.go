package standin

import (
	"strings"

	"nexdal/internal/engine/sqllex"
)

// A Speller goes along the tokens of a statement and writes them as SQLite has them.
type Speller struct {
	sqllex.Cursor
	Out []sqllex.Token
}

// NewSpeller is at the first of the tokens.
func NewSpeller(tokens []sqllex.Token) Speller {
	meaning := make([]sqllex.Token, 0, len(tokens))
	for _, t := range tokens {
		if !t.Blank() {
			meaning = append(meaning, t)
		}
	}
	return Speller{sqllex.Cursor{Tokens: meaning}, make([]sqllex.Token, 0, 2*len(tokens))}
}

// Put adds a token, with a blank behind it where the next would run into it.
func (sp *Speller) Put(kind sqllex.Kind, text string) {
	sp.Out = append(sp.Out, sqllex.Token{Kind: kind, Text: text})
	if kind != sqllex.Punct || text == ")" || text == "," {
		sp.Out = append(sp.Out, sqllex.Token{Kind: sqllex.Space, Text: " "})
	}
}

// Text adds a string.
func (sp *Speller) Text(text string) {
	sp.Put(sqllex.String, "'"+strings.ReplaceAll(text, "'", "''")+"'")
}

// SkipBrackets goes behind the next pair of brackets.
func (sp *Speller) SkipBrackets() {
	for !sp.Peek(0).Is("(") && !sp.Done() {
		sp.At++
	}
	for depth := 0; !sp.Done(); {
		t := sp.Peek(0)
		sp.At++
		if t.Is("(") {
			depth++
		} else if t.Is(")") {
			if depth--; depth == 0 {
				return
			}
		}
	}
}
