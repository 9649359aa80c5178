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
	sqllex.Cursor
	err error
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
	*buffer = (Engine{}).Dialect().AppendMeaning((*buffer)[:0], text)
	p := &parser{Cursor: sqllex.Cursor{Tokens: *buffer}}
	b := &body{text: text}
	p.expect("(")
	for p.err == nil && !p.Peek(0).Is(")") {
		if p.atTableConstraint() {
			p.tableConstraints(b)
		} else {
			b.columns = append(b.columns, p.column())
		}
		if !p.Take(",") && !p.Peek(0).Is(")") {
			p.fail()
		}
	}
	b.end = p.Peek(0).Start
	p.expect(")")
	for p.err == nil && !p.Done() {
		switch {
		case p.Take("strict"):
			b.options = append(b.options, strict)
		case p.Take("without", "rowid"):
			b.options = append(b.options, withoutRowid)
		case p.Take(","), p.Take(";"):
		default:
			p.fail()
		}
	}
	return b, p.err
}

// tokenBuffers spares a large file's survey most of its allocations.
var tokenBuffers = sync.Pool{New: func() any { return new([]sqllex.Token) }}

// last returns the end of the token before.
func (p *parser) last() int {
	return p.Peek(-1).End
}

// step goes over one token, whatever it is.
func (p *parser) step() {
	if _, ok := p.Next(); !ok {
		p.fail()
	}
}

func (p *parser) fail() {
	if p.err == nil {
		p.err = fmt.Errorf("unexpected %q", p.Peek(0).Text)
	}
	p.At = len(p.Tokens)
}

func (p *parser) expect(words ...string) {
	if !p.Take(words...) {
		p.fail()
	}
}

// name goes over an identifier.
func (p *parser) name() string {
	t := p.Peek(0)
	switch t.Kind {
	case sqllex.Word, sqllex.Quoted, sqllex.String:
		p.At++
		return t.Name()
	}
	p.fail()
	return ""
}

// parens goes over a balanced pair of parentheses and returns what is inside.
func (p *parser) parens() (from, to int) {
	from = p.Peek(0).End
	p.expect("(")
	for depth := 1; p.err == nil; p.At++ {
		switch t := p.Peek(0); {
		case p.Done():
			p.fail()
			return 0, 0
		case t.Is("("):
			depth++
		case t.Is(")"):
			if depth--; depth == 0 {
				to = t.Start
				p.At++
				return from, to
			}
		}
	}
	return 0, 0
}

func (p *parser) atTableConstraint() bool {
	t := p.Peek(0)
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
	t := p.Peek(0)
	if t.Kind != sqllex.Word {
		return false
	}
	for _, w := range columnConstraints {
		if t.Is(w) {
			return true
		}
	}
	return t.Is("generated") && p.Peek(1).Is("always")
}

func (p *parser) column() columnText {
	c := columnText{name: p.name()}
	c.nameEnd = p.last()
	c.start, c.stop = c.nameEnd, c.nameEnd
	for p.err == nil && !p.atColumnConstraint() && !p.Peek(0).Is(",") && !p.Peek(0).Is(")") {
		if c.start == c.stop {
			c.start = p.Peek(0).Start
		}
		if p.Peek(0).Is("(") {
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
	k := clause{start: p.Peek(0).Start}
	if p.Take("constraint") {
		at := p.Peek(0).Start
		k.name = p.name()
		k.nameAt = [2]int{at, p.last()}
	}
	from := p.Peek(0).Start
	word := func(kind string) {
		k.kind = kind
		k.keyword = [2]int{from, p.last()}
	}
	switch {
	case p.Take("primary", "key"):
		word("primary key")
		if p.Peek(0).Is("(") {
			k.columns, k.counter, k.ordered = p.indexed()
		}
		if !p.Take("asc") {
			k.ordered = p.Take("desc") || k.ordered
		}
		p.conflict()
		k.counter = p.Take("autoincrement") || k.counter
	case p.Take("unique"):
		word("unique")
		if p.Peek(0).Is("(") {
			k.columns, _, k.ordered = p.indexed()
		}
		p.conflict()
	case p.Take("not", "null"):
		word("not null")
		p.conflict()
	case p.Take("null"):
		word("null")
		p.conflict()
	case p.Take("check"):
		word("check")
		k.keyword[0], k.keyword[1] = p.parens()
		p.conflict()
	case p.Take("default"):
		word("default")
		if k.keyword[0] = p.Peek(0).Start; p.Peek(0).Is("(") {
			k.keyword[0], k.keyword[1] = p.parens()
			break
		}
		if !p.Take("+") {
			p.Take("-")
		}
		p.step()
		k.keyword[1] = p.last()
	case p.Take("collate"):
		word("collate")
		k.columns = []string{p.name()}
	case p.Take("foreign", "key"):
		columns, _, _ := p.indexed()
		p.expect("references")
		word("references")
		k.reference = p.references()
		k.reference.columns = columns
	case p.Take("references"):
		word("references")
		k.reference = p.references()
	case p.Take("generated", "always"), p.Peek(0).Is("as"):
		p.expect("as")
		word("generated")
		k.keyword[0], k.keyword[1] = p.parens()
		if k.stored = p.Take("stored"); !k.stored {
			p.Take("virtual")
		}
	case p.Take("not", "deferrable"), p.Take("deferrable"):
		word("deferrable")
		p.initially()
	case k.name != "" && (p.Peek(0).Is(",") || p.Peek(0).Is(")") || p.Peek(0).Is("constraint")):
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
		if p.Take("collate") {
			p.name()
			ordered = true
		}
		if !p.Take("asc") {
			ordered = p.Take("desc") || ordered
		}
		counter = p.Take("autoincrement") || counter
		if !p.Take(",") {
			break
		}
	}
	p.expect(")")
	return columns, counter, ordered
}

func (p *parser) conflict() {
	if p.Take("on", "conflict") {
		p.name()
	}
}

func (p *parser) references() *referenceText {
	r := &referenceText{target: p.name()}
	if p.Peek(0).Is("(") {
		r.targetColumns, _, _ = p.indexed()
	}
	r.end = p.last()
	for p.err == nil {
		start := p.Peek(0).Start
		switch {
		case p.Peek(0).Is("on") && (p.Peek(1).Is("delete") || p.Peek(1).Is("update")):
			into := &r.onDelete
			if p.Peek(1).Is("update") {
				into = &r.onUpdate
			}
			p.At += 2
			if !p.Take("set", "null") && !p.Take("set", "default") && !p.Take("no", "action") {
				p.step()
			}
			*into = [2]int{start, p.last()}
		case p.Take("match"):
			p.name()
		case p.Take("not", "deferrable"):
			p.initially()
		case p.Take("deferrable"):
			r.deferrable = true
			r.deferred = p.initially()
		default:
			return r
		}
	}
	return r
}

func (p *parser) initially() (deferred bool) {
	if p.Take("initially", "deferred") {
		return true
	}
	p.Take("initially", "immediate")
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
