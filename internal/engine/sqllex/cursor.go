package sqllex

// Meaning are the tokens of a text that are neither blank nor comment.
func (d Dialect) Meaning(text string) []Token { return d.AppendMeaning(nil, text) }

// AppendMeaning is Meaning, behind tokens that are there.
func (d Dialect) AppendMeaning(tokens []Token, text string) []Token {
	d.Each(text, func(t Token) bool {
		if !t.Blank() {
			tokens = append(tokens, t)
		}
		return true
	})
	return tokens
}

// first are those of the beginning, so many at most.
func (d Dialect) first(text string, most int) []Token {
	var tokens []Token
	d.Each(text, func(t Token) bool {
		if !t.Blank() {
			tokens = append(tokens, t)
		}
		return len(tokens) < most
	})
	return tokens
}

// A Cursor goes along tokens that mean something.
type Cursor struct {
	Tokens []Token
	At     int // the place of the one that comes
}

// Done reports whether nothing comes.
func (c *Cursor) Done() bool { return c.At >= len(c.Tokens) }

// Peek is the token so many places on; beyond the ends, a blank that stands there.
func (c *Cursor) Peek(n int) Token {
	at := c.At + n
	if at >= 0 && at < len(c.Tokens) {
		return c.Tokens[at]
	}
	end := 0
	if at > 0 && len(c.Tokens) > 0 {
		end = c.Tokens[len(c.Tokens)-1].End
	}
	return Token{Kind: Space, Start: end, End: end}
}

// Next goes past one token, and gives it; false: nothing comes.
func (c *Cursor) Next() (Token, bool) {
	if c.Done() {
		return Token{}, false
	}
	c.At++
	return c.Tokens[c.At-1], true
}

// ToLast goes to the last part of the name that comes: past its schema and the dots.
func (c *Cursor) ToLast() {
	for c.Peek(1).Is(".") {
		c.At += 2
	}
}

// Is reports whether the words or signs come next.
func (c *Cursor) Is(words ...string) bool {
	for i, w := range words {
		if !c.Peek(i).Is(w) {
			return false
		}
	}
	return true
}

// Take goes past the words or signs, if they all come next.
func (c *Cursor) Take(words ...string) bool {
	if !c.Is(words...) {
		return false
	}
	c.At += len(words)
	return true
}

// Parts takes what stands in the brackets that come, part by part.
func (c *Cursor) Parts() [][]Token {
	parts, depth := [][]Token{nil}, 0
	for {
		t, ok := c.Next()
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
