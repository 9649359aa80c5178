package sqlite

import (
	"fmt"
	"strings"
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// A body is the text of a CREATE TABLE statement from the opening parenthesis
// on, understood: what stands where. It follows the grammar of
// https://www.sqlite.org/lang_createtable.html as the engine's parser takes it.
type body struct {
	text    string
	columns []columnText
	clauses []clause // table constraints
	end     int      // offset of the closing parenthesis
	options []string
}

type columnText struct {
	name        string
	nameEnd     int
	start, stop int // of the type; equal when there is none
	clauses     []clause
	end         int // behind the last token
}

// A clause is one constraint, of a column or of the table.
type clause struct {
	kind       string // "primary key", "unique", "not null", "null", "check", "default", "collate", "references", "generated"
	name       string // given by CONSTRAINT
	nameAt     [2]int // where it stands
	start, end int    // from CONSTRAINT, if there, to the last token
	keyword    [2]int // where the words that give the kind stand; of check, generated and default, the expression
	columns    []string
	ordered    bool // some column of a key is given a collation or an order of its own
	stored     bool
	counter    bool // AUTOINCREMENT
	reference  *referenceText
}

// referenceText is what follows REFERENCES.
type referenceText struct {
	target             string
	columns            []string // the referring ones
	targetColumns      []string // nil: the target's primary key
	onDelete, onUpdate [2]int   // where the action words stand; zero: not given
	end                int      // behind the target and its columns
	deferrable         bool
	deferred           bool
}

// parser walks over the meaningful tokens.
type parser struct {
	tokens []sqllex.Token
	at     int
	err    error
}

// splitCreate cuts "CREATE TABLE name (..." at the opening parenthesis.
func splitCreate(sql string) (bodyText string, ok bool) {
	(Engine{}).Dialect().Each(sql, func(t sqllex.Token) bool {
		if ok = t.Is("("); ok {
			bodyText = sql[t.Start:]
		}
		return !ok
	})
	return bodyText, ok
}

// parseBody reads the text from the opening parenthesis on.
func parseBody(text string) (*body, error) {
	buffer := tokenBuffers.Get().(*[]sqllex.Token)
	defer tokenBuffers.Put(buffer) // what is understood holds offsets and text, no tokens
	*buffer = meaningful(text, *buffer)
	p := &parser{tokens: *buffer}
	b := &body{text: text}
	p.expect("(")
	for p.err == nil && !p.peek(0).Is(")") {
		if p.atTableConstraint() {
			p.tableConstraints(b)
		} else {
			b.columns = append(b.columns, p.column())
		}
		if !p.skip(",") && !p.peek(0).Is(")") {
			p.fail()
		}
	}
	b.end = p.peek(0).Start
	p.expect(")")
	for p.err == nil && p.at < len(p.tokens) {
		switch {
		case p.skip("strict"):
			b.options = append(b.options, strict)
		case p.skip("without", "rowid"):
			b.options = append(b.options, withoutRowid)
		case p.skip(","), p.skip(";"):
		default:
			p.fail()
		}
	}
	return b, p.err
}

// tokenBuffers spares a large file's survey most of its allocations.
var tokenBuffers = sync.Pool{New: func() any { return new([]sqllex.Token) }}

// meaningful returns the tokens that are neither blank nor comment, in the
// room that is given.
func meaningful(text string, room []sqllex.Token) []sqllex.Token {
	tokens := room[:0]
	(Engine{}).Dialect().Each(text, func(t sqllex.Token) bool {
		if !t.Blank() {
			tokens = append(tokens, t)
		}
		return true
	})
	return tokens
}

// peek returns the token n ahead; beyond the end, one that is nothing.
func (p *parser) peek(n int) sqllex.Token {
	if p.at+n < len(p.tokens) {
		return p.tokens[p.at+n]
	}
	end := 0
	if len(p.tokens) > 0 {
		end = p.tokens[len(p.tokens)-1].End
	}
	return sqllex.Token{Kind: sqllex.Space, Start: end, End: end}
}

// last returns the end of the token before.
func (p *parser) last() int {
	if p.at == 0 {
		return 0
	}
	return p.tokens[p.at-1].End
}

// step goes over one token, whatever it is.
func (p *parser) step() {
	if p.at == len(p.tokens) {
		p.fail()
		return
	}
	p.at++
}

func (p *parser) fail() {
	if p.err == nil {
		p.err = fmt.Errorf("unexpected %q", p.peek(0).Text)
	}
	p.at = len(p.tokens)
}

// skip goes over the words, if they all come next.
func (p *parser) skip(words ...string) bool {
	for i, w := range words {
		if !p.peek(i).Is(w) {
			return false
		}
	}
	p.at += len(words)
	return true
}

func (p *parser) expect(words ...string) {
	if !p.skip(words...) {
		p.fail()
	}
}

// name goes over an identifier.
func (p *parser) name() string {
	t := p.peek(0)
	switch t.Kind {
	case sqllex.Word, sqllex.Quoted, sqllex.String:
		p.at++
		return t.Name()
	}
	p.fail()
	return ""
}

// parens goes over a balanced pair of parentheses and returns what is inside.
func (p *parser) parens() (from, to int) {
	from = p.peek(0).End
	p.expect("(")
	for depth := 1; p.err == nil; p.at++ {
		switch t := p.peek(0); {
		case p.at >= len(p.tokens):
			p.fail()
			return 0, 0
		case t.Is("("):
			depth++
		case t.Is(")"):
			if depth--; depth == 0 {
				to = t.Start
				p.at++
				return from, to
			}
		}
	}
	return 0, 0
}

func (p *parser) atTableConstraint() bool {
	t := p.peek(0)
	for _, w := range []string{"constraint", "primary", "unique", "check", "foreign"} {
		if t.Kind == sqllex.Word && t.Is(w) {
			return true
		}
	}
	return false
}

// columnConstraints are the words that end a type.
var columnConstraints = []string{"constraint", "primary", "not", "null", "unique", "check", "default", "collate", "references", "as", "deferrable"}

func (p *parser) atColumnConstraint() bool {
	t := p.peek(0)
	if t.Kind != sqllex.Word {
		return false
	}
	for _, w := range columnConstraints {
		if t.Is(w) {
			return true
		}
	}
	return t.Is("generated") && p.peek(1).Is("always")
}

func (p *parser) column() columnText {
	c := columnText{name: p.name()}
	c.nameEnd = p.last()
	c.start, c.stop = c.nameEnd, c.nameEnd
	for p.err == nil && !p.atColumnConstraint() && !p.peek(0).Is(",") && !p.peek(0).Is(")") {
		if c.start == c.stop {
			c.start = p.peek(0).Start
		}
		if p.peek(0).Is("(") {
			p.parens()
		} else {
			p.name()
		}
		c.stop = p.last()
	}
	for p.err == nil && p.atColumnConstraint() {
		k := p.clause()
		if k.reference != nil {
			k.reference.columns = []string{c.name}
		}
		c.clauses = append(c.clauses, k)
	}
	c.end = p.last()
	return c
}

// tableConstraints goes over one or more; commas between them are optional.
func (p *parser) tableConstraints(b *body) {
	for p.err == nil && p.atTableConstraint() {
		b.clauses = append(b.clauses, p.clause())
	}
}

// clause goes over one constraint, of a column or of the table.
func (p *parser) clause() clause {
	k := clause{start: p.peek(0).Start}
	if p.skip("constraint") {
		at := p.peek(0).Start
		k.name = p.name()
		k.nameAt = [2]int{at, p.last()}
	}
	from := p.peek(0).Start
	word := func(kind string) {
		k.kind = kind
		k.keyword = [2]int{from, p.last()}
	}
	switch {
	case p.skip("primary", "key"):
		word("primary key")
		if p.peek(0).Is("(") {
			k.columns, k.counter, k.ordered = p.indexed()
		}
		if !p.skip("asc") {
			k.ordered = p.skip("desc") || k.ordered
		}
		p.conflict()
		k.counter = p.skip("autoincrement") || k.counter
	case p.skip("unique"):
		word("unique")
		if p.peek(0).Is("(") {
			k.columns, _, k.ordered = p.indexed()
		}
		p.conflict()
	case p.skip("not", "null"):
		word("not null")
		p.conflict()
	case p.skip("null"):
		word("null")
		p.conflict()
	case p.skip("check"):
		word("check")
		k.keyword[0], k.keyword[1] = p.parens()
		p.conflict()
	case p.skip("default"):
		word("default")
		if k.keyword[0] = p.peek(0).Start; p.peek(0).Is("(") {
			k.keyword[0], k.keyword[1] = p.parens()
			break
		}
		if !p.skip("+") {
			p.skip("-")
		}
		p.step()
		k.keyword[1] = p.last()
	case p.skip("collate"):
		word("collate")
		k.columns = []string{p.name()}
	case p.skip("foreign", "key"):
		columns, _, _ := p.indexed()
		p.expect("references")
		word("references")
		k.reference = p.references()
		k.reference.columns = columns
	case p.skip("references"):
		word("references")
		k.reference = p.references()
	case p.skip("generated", "always"), p.peek(0).Is("as"):
		p.expect("as")
		word("generated")
		k.keyword[0], k.keyword[1] = p.parens()
		if k.stored = p.skip("stored"); !k.stored {
			p.skip("virtual")
		}
	case p.skip("not", "deferrable"), p.skip("deferrable"):
		word("deferrable")
		p.initially()
	case k.name != "" && (p.peek(0).Is(",") || p.peek(0).Is(")") || p.peek(0).Is("constraint")):
		word("nothing") // a name without a constraint, which the engine lets pass
	default:
		p.fail()
	}
	k.end = p.last()
	return k
}

// indexed goes over a list of columns, which may have a collation and an order
// of their own.
func (p *parser) indexed() (columns []string, counter, ordered bool) {
	p.expect("(")
	for p.err == nil {
		columns = append(columns, p.name())
		if p.skip("collate") {
			p.name()
			ordered = true
		}
		if !p.skip("asc") {
			ordered = p.skip("desc") || ordered
		}
		counter = p.skip("autoincrement") || counter
		if !p.skip(",") {
			break
		}
	}
	p.expect(")")
	return columns, counter, ordered
}

func (p *parser) conflict() {
	if p.skip("on", "conflict") {
		p.name()
	}
}

func (p *parser) references() *referenceText {
	r := &referenceText{target: p.name()}
	if p.peek(0).Is("(") {
		r.targetColumns, _, _ = p.indexed()
	}
	r.end = p.last()
	for p.err == nil {
		start := p.peek(0).Start
		switch {
		case p.peek(0).Is("on") && (p.peek(1).Is("delete") || p.peek(1).Is("update")):
			into := &r.onDelete
			if p.peek(1).Is("update") {
				into = &r.onUpdate
			}
			p.at += 2
			if !p.skip("set", "null") && !p.skip("set", "default") && !p.skip("no", "action") {
				p.step()
			}
			*into = [2]int{start, p.last()}
		case p.skip("match"):
			p.name()
		case p.skip("not", "deferrable"):
			p.initially()
		case p.skip("deferrable"):
			r.deferrable = true
			r.deferred = p.initially()
		default:
			return r
		}
	}
	return r
}

func (p *parser) initially() (deferred bool) {
	if p.skip("initially", "deferred") {
		return true
	}
	p.skip("initially", "immediate")
	return false
}

// column returns what the text says of a column, names compared as the engine
// does, without regard to case.
func (b *body) column(name string) *columnText {
	for i := range b.columns {
		if strings.EqualFold(b.columns[i].name, name) {
			return &b.columns[i]
		}
	}
	return nil
}

// clause returns the column's constraint of that kind, or nil.
func (c *columnText) clause(kind string) *clause {
	for i := range c.clauses {
		if c.clauses[i].kind == kind {
			return &c.clauses[i]
		}
	}
	return nil
}

// A keyText is a primary key or unique constraint as declared.
type keyText struct {
	*clause
	columns []string
	primary bool
}

// keys returns the declared keys in the order that the engine numbers them:
// columns first, each with its constraints, then the table's.
func (b *body) keys() []keyText {
	var keys []keyText
	for i := range b.columns {
		c := &b.columns[i]
		for j := range c.clauses {
			if k := &c.clauses[j]; k.kind == "primary key" || k.kind == "unique" {
				keys = append(keys, keyText{k, []string{c.name}, k.kind == "primary key"})
			}
		}
	}
	for i := range b.clauses {
		if k := &b.clauses[i]; k.kind == "primary key" || k.kind == "unique" {
			keys = append(keys, keyText{k, k.columns, k.kind == "primary key"})
		}
	}
	return keys
}

// references returns the declared foreign keys in the order of the text.
func (b *body) references() []*clause {
	var all []*clause
	b.each(func(_ *columnText, k *clause) {
		if k.kind == "references" {
			all = append(all, k)
		}
	})
	return all
}

// each visits every constraint in the order of the text.
func (b *body) each(visit func(*columnText, *clause)) {
	for i := range b.columns {
		for j := range b.columns[i].clauses {
			visit(&b.columns[i], &b.columns[i].clauses[j])
		}
	}
	for i := range b.clauses {
		visit(nil, &b.clauses[i])
	}
}

// checks returns the check constraints.
func (b *body) checks() []*catalog.Check {
	var all []*catalog.Check
	b.each(func(_ *columnText, k *clause) {
		if k.kind == "check" {
			all = append(all, &catalog.Check{Name: k.name, Expression: strings.TrimSpace(b.text[k.keyword[0]:k.keyword[1]])})
		}
	})
	return all
}
