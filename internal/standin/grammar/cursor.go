// Package grammar reads statements by their tokens, for the simulated servers: what is not
// written as the system's manual has it is refused, and where.
package grammar

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// A Cursor goes along the tokens of one statement. Its methods that need something give up
// where it is not there, with an error that [Read] returns.
type Cursor struct {
	sqllex.Cursor
	text string
	fold func(string) string // what a bare name stands for
}

// New returns a cursor at the beginning of a statement.
func New(d sqllex.Dialect, text string, fold func(string) string) *Cursor {
	tokens := d.AppendMeaning(make([]sqllex.Token, 0, len(text)/3), text)
	return &Cursor{sqllex.Cursor{Tokens: tokens}, text, fold}
}

// A SyntaxError says near what a statement is not understood.
type SyntaxError struct{ Near, Wanted string }

// Error gives one sentence.
func (e *SyntaxError) Error() string {
	return fmt.Sprintf("incorrect syntax near '%s': %s was expected", e.Near, e.Wanted)
}

type failed struct{ err error }

// Read calls read, and returns the error for which a method of the cursor, or [Fail], gave up.
func Read(read func()) (err error) {
	defer func() {
		if p := recover(); p != nil {
			f, ok := p.(failed)
			if !ok {
				panic(p)
			}
			err = f.err
		}
	}()
	read()
	return nil
}

// Fail gives up.
func Fail(err error) { panic(failed{err}) }

// Check gives up where there is an error.
func Check(err error) {
	if err != nil {
		Fail(err)
	}
}

func (c *Cursor) wanted(what string) {
	near := "the end"
	if c.At < len(c.Tokens) {
		near = c.Tokens[c.At].Text
	}
	Fail(&SyntaxError{near, what})
}

// Need goes past the words, which have to come next.
func (c *Cursor) Need(words ...string) {
	if !c.Take(words...) {
		c.wanted(strings.Join(words, " "))
	}
}

// End needs the end of the statement.
func (c *Cursor) End() {
	c.Take(";")
	if !c.Done() {
		c.wanted("the end of the statement")
	}
}

// Skip goes past one token.
func (c *Cursor) Skip() { c.At++ }

// Name needs an identifier.
func (c *Cursor) Name() string {
	t := c.Peek(0)
	switch t.Kind {
	case sqllex.Quoted:
		c.At++
		return t.Name()
	case sqllex.Word:
		c.At++
		return c.fold(t.Text)
	}
	c.wanted("a name")
	return ""
}

// Word needs a keyword, and gives it in small letters.
func (c *Cursor) Word() string {
	t := c.Peek(0)
	if t.Kind != sqllex.Word {
		c.wanted("a word")
	}
	c.At++
	return strings.ToLower(t.Text)
}

// OneOf needs one of the words, and gives it as it is listed.
func (c *Cursor) OneOf(words ...string) string {
	for _, w := range words {
		if c.Take(strings.Fields(w)...) {
			return w
		}
	}
	c.wanted(strings.Join(words, " or "))
	return ""
}

// Ref needs a name that may stand behind its schema's, or else is in the home schema.
func (c *Cursor) Ref(home string) catalog.Ref {
	r := catalog.Ref{Schema: home, Table: c.Name()}
	if c.Take(".") {
		r.Schema, r.Table = r.Table, c.Name()
	}
	return r
}

// Names needs names in brackets.
func (c *Cursor) Names() []string {
	var names []string
	c.List(func() { names = append(names, c.Name()) })
	return names
}

// List needs brackets, and calls item before each comma and the closing one.
func (c *Cursor) List(item func()) {
	c.Need("(")
	for {
		item()
		if !c.Take(",") {
			break
		}
	}
	c.Need(")")
}

// Literal needs a text in quotes.
func (c *Cursor) Literal() string {
	t := c.Peek(0)
	if t.Kind != sqllex.String {
		c.wanted("a text in quotes")
	}
	c.At++
	return t.Name()
}

// Number needs a whole number, which may have a sign.
func (c *Cursor) Number() int64 {
	sign := ""
	if c.Take("-") {
		sign = "-"
	} else {
		c.Take("+")
	}
	n, err := strconv.ParseInt(sign+c.Peek(0).Text, 10, 64)
	if err != nil {
		c.wanted("a whole number")
	}
	c.At++
	return n
}

// Bracketed needs brackets, and gives what stands between them as it is written.
func (c *Cursor) Bracketed() string {
	c.Need("(")
	from := c.At
	for depth := 1; ; c.At++ {
		switch {
		case c.Done():
			c.wanted(")")
		case c.Is("("):
			depth++
		case c.Is(")"):
			if depth--; depth == 0 {
				c.At++
				return c.span(from, c.At-1)
			}
		}
	}
}

// Until gives what stands before the first of the words, or a comma or closing bracket, outside
// brackets, as it is written.
func (c *Cursor) Until(words ...string) string {
	from := c.At
	for depth := 0; !c.Done(); c.At++ {
		if depth == 0 {
			if c.Is(",") || c.Is(")") || c.Is(";") {
				break
			}
			for _, w := range words {
				if c.Is(strings.Fields(w)...) && c.At > from {
					return c.span(from, c.At)
				}
			}
		}
		switch {
		case c.Is("("):
			depth++
		case c.Is(")"):
			depth--
		}
	}
	if c.At == from {
		c.wanted("an expression")
	}
	return c.span(from, c.At)
}

// Rest gives what is left, as it is written, and ends.
func (c *Cursor) Rest() string {
	if c.Done() {
		return ""
	}
	text := c.text[c.Tokens[c.At].Start:]
	c.At = len(c.Tokens)
	return strings.TrimSpace(text)
}

func (c *Cursor) span(from, to int) string {
	if from >= to {
		return ""
	}
	return c.text[c.Tokens[from].Start:c.Tokens[to-1].End]
}

// Before reports whether the word was the last that was taken.
func (c *Cursor) Before(word string) bool { return c.At > 0 && c.Tokens[c.At-1].Is(word) }

// Statement goes past all up to a semicolon, and gives it as it is written.
func (c *Cursor) Statement() string {
	from := c.At
	for !c.Done() && !c.Is(";") {
		c.At++
	}
	return c.span(from, c.At)
}

// Upto gives what stands before the word, outside brackets, or all that is left of the statement.
func (c *Cursor) Upto(word string) string {
	from := c.At
	for depth := 0; !c.Done() && !c.Is(";"); c.At++ {
		switch {
		case depth == 0 && c.Is(word):
			return c.span(from, c.At)
		case c.Is("("):
			depth++
		case c.Is(")"):
			depth--
		}
	}
	return c.span(from, c.At)
}

// Ahead reports whether the words stand somewhere in what is left of the statement.
func (c *Cursor) Ahead(words ...string) bool {
	at := c.At
	defer func() { c.At = at }()
	for ; !c.Done() && !c.Is(";"); c.At++ {
		if c.Is(words...) {
			return true
		}
	}
	return false
}

// Last is the token that was taken last, as it is written.
func (c *Cursor) Last() string { return c.Tokens[c.At-1].Text }

// Whole is the text from the first token on.
func (c *Cursor) Whole() string { return strings.TrimSpace(c.text) }
