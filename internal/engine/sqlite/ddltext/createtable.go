package ddltext

import (
	"fmt"
	"strings"
	"sync"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// A Body is the text of a CREATE TABLE statement from the opening parenthesis
// on, understood: what stands where. It follows the grammar of
// https://www.sqlite.org/lang_createtable.html as the engine's parser takes it.
type Body struct {
	Text    string
	Columns []ColumnText
	clauses []Clause // table constraints
	end     int      // offset of the closing parenthesis
	Options []string
}

// A ColumnText is what the text says of a column.
type ColumnText struct {
	Name        string
	nameEnd     int
	Start, Stop int // of the type; equal when there is none
	Clauses     []Clause
	end         int // behind the last token
}

// A Clause is one constraint, of a column or of the table.
type Clause struct {
	Kind       string // "primary key", "unique", "not null", "null", "check", "default", "collate", "references", "generated"
	Name       string // given by CONSTRAINT
	nameAt     [2]int // where it stands
	start, end int    // from CONSTRAINT, if there, to the last token
	Keyword    [2]int // where the words that give the kind stand; of check, generated and default, the expression
	Columns    []string
	Ordered    bool // some column of a key is given a collation or an order of its own
	Stored     bool
	Counter    bool // AUTOINCREMENT
	Reference  *referenceText
}

// referenceText is what follows REFERENCES.
type referenceText struct {
	Target             string
	Columns            []string // the referring ones
	TargetColumns      []string // nil: the target's primary key
	OnDelete, OnUpdate [2]int   // where the action words stand; zero: not given
	End                int      // behind the target and its columns
	Deferrable         bool
	Deferred           bool
}

// parser walks over the meaningful tokens.
type parser struct {
	sqllex.Cursor
	err error
}

// SplitCreate cuts "CREATE TABLE name (..." at the opening parenthesis.
func SplitCreate(sql string) (bodyText string, ok bool) {
	(Texts{}).Dialect().Each(sql, func(t sqllex.Token) bool {
		if ok = t.Is("("); ok {
			bodyText = sql[t.Start:]
		}
		return !ok
	})
	return bodyText, ok
}

// ParseBody reads the text from the opening parenthesis on.
func ParseBody(text string) (*Body, error) {
	buffer := tokenBuffers.Get().(*[]sqllex.Token)
	defer tokenBuffers.Put(buffer) // what is understood holds offsets and text, no tokens
	*buffer = (Texts{}).Dialect().AppendMeaning((*buffer)[:0], text)
	p := &parser{Cursor: sqllex.Cursor{Tokens: *buffer}}
	b := &Body{Text: text}
	p.expect("(")
	for p.err == nil && !p.Peek(0).Is(")") {
		if p.atTableConstraint() {
			p.tableConstraints(b)
		} else {
			b.Columns = append(b.Columns, p.column())
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
			b.Options = append(b.Options, Strict)
		case p.Take("without", "rowid"):
			b.Options = append(b.Options, WithoutRowid)
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

func (p *parser) column() ColumnText {
	c := ColumnText{Name: p.name()}
	c.nameEnd = p.last()
	c.Start, c.Stop = c.nameEnd, c.nameEnd
	for p.err == nil && !p.atColumnConstraint() && !p.Peek(0).Is(",") && !p.Peek(0).Is(")") {
		if c.Start == c.Stop {
			c.Start = p.Peek(0).Start
		}
		if p.Peek(0).Is("(") {
			p.parens()
		} else {
			p.name()
		}
		c.Stop = p.last()
	}
	for p.err == nil && p.atColumnConstraint() {
		k := p.clause()
		if k.Reference != nil {
			k.Reference.Columns = []string{c.Name}
		}
		c.Clauses = append(c.Clauses, k)
	}
	c.end = p.last()
	return c
}

// tableConstraints goes over one or more; commas between them are optional.
func (p *parser) tableConstraints(b *Body) {
	for p.err == nil && p.atTableConstraint() {
		b.clauses = append(b.clauses, p.clause())
	}
}

// clause goes over one constraint, of a column or of the table.
func (p *parser) clause() Clause {
	k := Clause{start: p.Peek(0).Start}
	if p.Take("constraint") {
		at := p.Peek(0).Start
		k.Name = p.name()
		k.nameAt = [2]int{at, p.last()}
	}
	from := p.Peek(0).Start
	word := func(kind string) {
		k.Kind = kind
		k.Keyword = [2]int{from, p.last()}
	}
	switch {
	case p.Take("primary", "key"):
		word("primary key")
		if p.Peek(0).Is("(") {
			k.Columns, k.Counter, k.Ordered = p.indexed()
		}
		if !p.Take("asc") {
			k.Ordered = p.Take("desc") || k.Ordered
		}
		p.conflict()
		k.Counter = p.Take("autoincrement") || k.Counter
	case p.Take("unique"):
		word("unique")
		if p.Peek(0).Is("(") {
			k.Columns, _, k.Ordered = p.indexed()
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
		k.Keyword[0], k.Keyword[1] = p.parens()
		p.conflict()
	case p.Take("default"):
		word("default")
		if k.Keyword[0] = p.Peek(0).Start; p.Peek(0).Is("(") {
			k.Keyword[0], k.Keyword[1] = p.parens()
			break
		}
		if !p.Take("+") {
			p.Take("-")
		}
		p.step()
		k.Keyword[1] = p.last()
	case p.Take("collate"):
		word("collate")
		k.Columns = []string{p.name()}
	case p.Take("foreign", "key"):
		columns, _, _ := p.indexed()
		p.expect("references")
		word("references")
		k.Reference = p.references()
		k.Reference.Columns = columns
	case p.Take("references"):
		word("references")
		k.Reference = p.references()
	case p.Take("generated", "always"), p.Peek(0).Is("as"):
		p.expect("as")
		word("generated")
		k.Keyword[0], k.Keyword[1] = p.parens()
		if k.Stored = p.Take("stored"); !k.Stored {
			p.Take("virtual")
		}
	case p.Take("not", "deferrable"), p.Take("deferrable"):
		word("deferrable")
		p.initially()
	case k.Name != "" && (p.Peek(0).Is(",") || p.Peek(0).Is(")") || p.Peek(0).Is("constraint")):
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
	r := &referenceText{Target: p.name()}
	if p.Peek(0).Is("(") {
		r.TargetColumns, _, _ = p.indexed()
	}
	r.End = p.last()
	for p.err == nil {
		start := p.Peek(0).Start
		switch {
		case p.Peek(0).Is("on") && (p.Peek(1).Is("delete") || p.Peek(1).Is("update")):
			into := &r.OnDelete
			if p.Peek(1).Is("update") {
				into = &r.OnUpdate
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
			r.Deferrable = true
			r.Deferred = p.initially()
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

// Column returns what the text says of a column, names compared as the engine
// does, without regard to case.
func (b *Body) Column(name string) *ColumnText {
	for i := range b.Columns {
		if strings.EqualFold(b.Columns[i].Name, name) {
			return &b.Columns[i]
		}
	}
	return nil
}

// Clause returns the column's constraint of that kind, or nil.
func (c *ColumnText) Clause(kind string) *Clause {
	for i := range c.Clauses {
		if c.Clauses[i].Kind == kind {
			return &c.Clauses[i]
		}
	}
	return nil
}

// A KeyText is a primary key or unique constraint as declared.
type KeyText struct {
	*Clause
	Columns []string
	Primary bool
}

// Keys returns the declared keys in the order that the engine numbers them:
// columns first, each with its constraints, then the table's.
func (b *Body) Keys() []KeyText {
	var keys []KeyText
	for i := range b.Columns {
		c := &b.Columns[i]
		for j := range c.Clauses {
			if k := &c.Clauses[j]; k.Kind == "primary key" || k.Kind == "unique" {
				keys = append(keys, KeyText{k, []string{c.Name}, k.Kind == "primary key"})
			}
		}
	}
	for i := range b.clauses {
		if k := &b.clauses[i]; k.Kind == "primary key" || k.Kind == "unique" {
			keys = append(keys, KeyText{k, k.Columns, k.Kind == "primary key"})
		}
	}
	return keys
}

// References returns the declared foreign keys in the order of the text.
func (b *Body) References() []*Clause {
	var all []*Clause
	b.each(func(_ *ColumnText, k *Clause) {
		if k.Kind == "references" {
			all = append(all, k)
		}
	})
	return all
}

// each visits every constraint in the order of the text.
func (b *Body) each(visit func(*ColumnText, *Clause)) {
	for i := range b.Columns {
		for j := range b.Columns[i].Clauses {
			visit(&b.Columns[i], &b.Columns[i].Clauses[j])
		}
	}
	for i := range b.clauses {
		visit(nil, &b.clauses[i])
	}
}

// Checks returns the check constraints.
func (b *Body) Checks() []*catalog.Check {
	var all []*catalog.Check
	b.each(func(_ *ColumnText, k *Clause) {
		if k.Kind == "check" {
			all = append(all, &catalog.Check{Name: k.Name, Expression: strings.TrimSpace(b.Text[k.Keyword[0]:k.Keyword[1]])})
		}
	})
	return all
}
