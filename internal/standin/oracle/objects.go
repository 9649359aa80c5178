package oracle

import (
	"context"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// sequenceMost stands for all numbers of 28 digits.
const sequenceMost = math.MaxInt64

func (s *Session) schema(name string) *catalog.Schema {
	schema := s.d.Catalog.Schema(name)
	if schema == nil {
		grammar.Fail(refuse(1918, "user '%s' does not exist", name))
	}
	return schema
}

func (s *Session) sequence(ref catalog.Ref) (*catalog.Schema, int) {
	schema := s.schema(ref.Schema)
	return schema, slices.IndexFunc(schema.Sequences, func(q *catalog.Sequence) bool { return q.Name == ref.Table })
}

func (s *Session) createSequence(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	schema, at := s.sequence(ref)
	if at >= 0 || s.d.Catalog.Table(ref) != nil {
		return &standin.Fault{Kind: standin.Exists, Name: ref.Table, Table: ref}
	}
	q := &catalog.Sequence{Name: ref.Table, Start: math.MinInt64, Increment: 1, Least: 1, Most: sequenceMost, Cache: 20}
	s.counting(c, q)
	if q.Start == math.MinInt64 {
		if q.Start = q.Least; q.Increment < 0 {
			q.Start = q.Most
		}
	}
	schema.Sequences = append(schema.Sequences, q)
	return nil
}

// counting reads the options of a sequence; limit is START WITH LIMIT VALUE
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-SEQUENCE.html).
func (s *Session) counting(c *grammar.Cursor, q *catalog.Sequence) (limit bool) {
	big := func() int64 {
		if len(c.Peek(0).Text) > 18 {
			c.Skip()
			return sequenceMost
		}
		return c.Number()
	}
	for !c.Done() && !c.Is(";") && !c.Is(")") {
		switch {
		case c.Take("RESTART"):
			q.Last = nil
		case c.Take("START", "WITH", "LIMIT", "VALUE"):
			limit = true
		case c.Take("START", "WITH"):
			q.Start = c.Number()
		case c.Take("INCREMENT", "BY"):
			q.Increment = c.Number()
		case c.Take("NOMINVALUE"):
			q.Least = 1
		case c.Take("NOMAXVALUE"):
			q.Most = sequenceMost
		case c.Take("MINVALUE"):
			q.Least = c.Number()
		case c.Take("MAXVALUE"):
			q.Most = big()
		case c.Take("NOCYCLE"):
			q.Cycle = false
		case c.Take("CYCLE"):
			q.Cycle = true
		case c.Take("NOCACHE"):
			q.Cache = 0
		case c.Take("NOORDER"):
			q.Type = ""
		case c.Take("ORDER"):
			q.Type = "ORDER"
		default:
			c.Need("CACHE")
			if q.Cache = c.Number(); q.Cache < 2 {
				grammar.Fail(refuse(4010, "the number of values to CACHE must be greater than 1"))
			}
		}
	}
	return limit
}

func (s *Session) alterSequence(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	schema, at := s.sequence(ref)
	if at < 0 {
		return refuse(2289, "sequence does not exist")
	}
	q := schema.Sequences[at].Clone()
	start, restart := q.Start, c.Is("RESTART")
	if c.Is("START") {
		return refuse(2283, "cannot alter starting sequence number")
	}
	s.counting(c, q)
	if restart {
		last := q.Start - q.Increment
		q.Last, q.Start = &last, start
	}
	schema.Sequences[at] = q
	return nil
}

func (s *Session) dropSequence(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	schema, at := s.sequence(ref)
	if at < 0 {
		return refuse(2289, "sequence does not exist")
	}
	if strings.HasPrefix(ref.Table, "ISEQ$$_") {
		return refuse(32794, "cannot drop a system-generated sequence")
	}
	schema.Sequences = slices.Delete(schema.Sequences, at, at+1)
	return nil
}

// compiled are the kinds of what is compiled, as DBA_SOURCE calls them.
func routine(kind string) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, _ context.Context, c *grammar.Cursor) error {
		ref := s.ref(c)
		schema := s.schema(ref.Schema)
		f := &catalog.Routine{Name: ref.Table, Kind: kind, Definition: source(c)}
		c.Rest()
		again := strings.Contains(strings.ToUpper(c.Whole()[:min(30, len(c.Whole()))]), "OR REPLACE")
		for i, o := range schema.Routines {
			if o.Name == f.Name && o.Kind == kind {
				if !again {
					return &standin.Fault{Kind: standin.Exists, Name: ref.Table, Table: ref}
				}
				schema.Routines[i] = f
				return nil
			}
		}
		schema.Routines = append(schema.Routines, f)
		return nil
	}
}

// source is a text as DBA_SOURCE keeps it: from the word that says what it is.
func source(c *grammar.Cursor) string {
	text := c.Whole()
	for _, t := range (&Dictionary{}).Lexis().Tokens(text) {
		if t.Is("TRIGGER") || t.Is("FUNCTION") || t.Is("PROCEDURE") || t.Is("PACKAGE") || t.Is("TYPE") {
			return text[t.Start:]
		}
	}
	return text
}

func dropRoutine(kind string) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, _ context.Context, c *grammar.Cursor) error {
		ref := s.ref(c)
		schema := s.schema(ref.Schema)
		n := len(schema.Routines)
		schema.Routines = slices.DeleteFunc(schema.Routines, func(f *catalog.Routine) bool {
			return f.Name == ref.Table && (f.Kind == kind || kind == "package" && f.Kind == "package body")
		})
		if n == len(schema.Routines) {
			return refuse(4043, "object %s does not exist", ref.Table)
		}
		return nil
	}
}

func view(again bool) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, ctx context.Context, c *grammar.Cursor) error {
		ref := s.ref(c)
		v := &catalog.View{Name: ref.Table}
		if c.Is("(") {
			c.List(func() { v.Columns = append(v.Columns, &catalog.ViewColumn{Name: c.Name()}) })
		}
		c.Need("AS")
		text := strings.TrimSuffix(strings.TrimSpace(c.Rest()), ";")
		if i := len(text) - len("WITH READ ONLY"); i > 0 && strings.EqualFold(text[i:], "WITH READ ONLY") {
			v.Options = append(v.Options, "with read only")
			text = strings.TrimSpace(text[:i])
		}
		return s.makeView(ctx, ref, v, text, again)
	}
}

func (s *Session) makeView(ctx context.Context, ref catalog.Ref, v *catalog.View, text string, again bool) error {
	v.Definition, v.Reads = text, s.reads(text, ref.Schema)
	if old := s.d.View(ref); old != nil && again {
		v.Comment, v.Triggers = old.Comment, old.Triggers
		if err := s.DropView(ctx, ref); err != nil {
			return err
		}
		s.d.more.compiled = slices.DeleteFunc(slices.Clone(s.d.more.compiled), func(b broken) bool { return b.owner == ref.Schema && b.name == ref.Table })
	}
	var columns []string
	for _, c := range v.Columns {
		columns = append(columns, c.Name)
	}
	return s.CreateView(ctx, ref, v, text, columns)
}

func (s *Session) createMaterialized(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	v := &catalog.View{Name: ref.Table, Materialised: true}
	method, mode := "FORCE", "DEMAND"
	if c.Take("REFRESH") {
		method = c.OneOf("FORCE", "FAST", "COMPLETE")
		c.Need("ON")
		mode = c.OneOf("DEMAND", "COMMIT")
	}
	v.Options = []string{method, mode}
	c.Need("AS")
	return s.makeView(ctx, ref, v, strings.TrimSuffix(strings.TrimSpace(c.Rest()), ";"), false)
}

// createLog has the changes of a table kept for materialized views, in a table of its own.
func (s *Session) createLog(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	c.Rest()
	if _, err := s.d.Table(ref); err != nil {
		return err
	}
	s.d.more.logs = append(s.d.more.logs, ref)
	return nil
}

// logOf is the table that keeps them.
func logOf(of catalog.Ref) catalog.Ref {
	return catalog.Ref{Schema: of.Schema, Table: "MLOG$_" + of.Table}
}

// createLink keeps the name of a link to another database: nothing is asked there.
func (s *Session) createLink(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	c.Rest()
	schema := s.schema(ref.Schema)
	schema.Objects = append(schema.Objects, &catalog.Object{Kind: "database link", Name: ref.Table})
	return nil
}

// policy is that a function decides which rows of a table one sees; no rows are hidden here.
func (s *Session) policy(arguments []string) error {
	if len(arguments) < 3 {
		return refuse(6553, "PLS-306: wrong number or types of arguments in call to 'ADD_POLICY'")
	}
	on := catalog.Ref{Schema: arguments[0], Table: arguments[1]}
	if _, err := s.d.Table(on); err != nil {
		return err
	}
	s.d.more.policies = append(s.d.more.policies, grant{on: on, to: arguments[2]})
	return nil
}

// reads are the tables and views that a text names.
func (s *Session) reads(text, home string) []catalog.ObjectRef {
	var found []catalog.ObjectRef
	fold := func(t sqllex.Token) string {
		if t.Kind == sqllex.Word {
			return strings.ToUpper(t.Text)
		}
		return t.Name()
	}
	words := s.d.Lexis().Meaning(text)
	for i, t := range words {
		if t.Kind != sqllex.Word && t.Kind != sqllex.Quoted {
			continue
		}
		ref := catalog.Ref{Schema: home, Table: fold(t)}
		if i > 1 && words[i-1].Is(".") {
			ref.Schema = fold(words[i-2])
		}
		o := catalog.ObjectRef{Schema: ref.Schema, Name: ref.Table}
		switch {
		case s.d.Catalog.Table(ref) != nil:
			o.Kind = catalog.KindTable
		case s.d.View(ref) != nil:
			o.Kind = catalog.KindView
		}
		if o.Kind != "" && !slices.Contains(found, o) {
			found = append(found, o)
		}
	}
	return found
}

// invalidate notes what reads from an object that goes.
func (s *Session) invalidate(o catalog.ObjectRef) {
	for _, schema := range s.d.Catalog.Schemas {
		for _, v := range schema.Views {
			if slices.Contains(v.Reads, o) {
				s.d.more.compiled = append(slices.Clone(s.d.more.compiled), broken{schema.Name, v.Name, "VIEW"})
			}
		}
	}
}

func (s *Session) dropView(ctx context.Context, c *grammar.Cursor) error {
	return s.DropView(ctx, s.ref(c))
}

// trigger keeps one by its text: it is not carried out.
func trigger(again bool) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, _ context.Context, c *grammar.Cursor) error {
		ref := s.ref(c)
		g := &catalog.Trigger{Name: ref.Table, Definition: source(c), Timing: strings.ToLower(c.OneOf("BEFORE", "AFTER", "INSTEAD OF", "FOR"))}
		for {
			g.Events = append(g.Events, strings.ToLower(c.OneOf("INSERT", "UPDATE", "DELETE")))
			if c.Take("OF") {
				c.Name()
				for c.Take(",") {
					c.Name()
				}
			}
			if !c.Take("OR") {
				break
			}
		}
		c.Need("ON")
		on := s.ref(c)
		text := strings.ToUpper(c.Rest())
		g.PerRow = strings.Contains(text, "FOR EACH ROW")
		var list *[]*catalog.Trigger
		if t := s.d.Catalog.Table(on); t != nil {
			list = &t.Triggers
		} else if v := s.d.View(on); v != nil {
			list = &v.Triggers
		} else {
			return &standin.Fault{Kind: standin.Missing, Name: on.Table, Table: on}
		}
		for i, o := range *list {
			if o.Name == g.Name {
				if !again {
					return refuse(4081, "trigger '%s' already exists", g.Name)
				}
				(*list)[i] = g
				return nil
			}
		}
		*list = append(*list, g)
		return nil
	}
}

// triggered are the triggers among which that of the name is.
func (s *Session) triggered(ref catalog.Ref) (list *[]*catalog.Trigger, at int) {
	schema := s.schema(ref.Schema)
	for _, t := range schema.Tables {
		if i := slices.IndexFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == ref.Table }); i >= 0 {
			return &t.Triggers, i
		}
	}
	for _, v := range schema.Views {
		if i := slices.IndexFunc(v.Triggers, func(g *catalog.Trigger) bool { return g.Name == ref.Table }); i >= 0 {
			return &v.Triggers, i
		}
	}
	grammar.Fail(refuse(4080, "trigger '%s' does not exist", ref.Table))
	return nil, 0
}

func (s *Session) alterTrigger(_ context.Context, c *grammar.Cursor) error {
	list, at := s.triggered(s.ref(c))
	(*list)[at].Enabled = map[string]string{"DISABLE": "disabled"}[c.OneOf("ENABLE", "DISABLE")]
	return nil
}

func (s *Session) dropTrigger(_ context.Context, c *grammar.Cursor) error {
	list, at := s.triggered(s.ref(c))
	*list = slices.Delete(*list, at, at+1)
	return nil
}

func (s *Session) createType(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	schema := s.schema(ref.Schema)
	schema.Objects = append(schema.Objects, &catalog.Object{Kind: "type", Name: ref.Table, Definition: source(c)})
	c.Rest()
	return nil
}

func (s *Session) createSynonym(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	c.Need("FOR")
	of := s.ref(c)
	link := ""
	if c.Take("@") {
		link = c.Name()
	}
	schema := s.schema(ref.Schema)
	schema.Objects = append(schema.Objects, &catalog.Object{Kind: "synonym", Name: ref.Table, Definition: strings.Join([]string{of.Schema, of.Table, link}, "\x00")})
	return nil
}

func dropObject(kind string) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, _ context.Context, c *grammar.Cursor) error {
		ref := s.ref(c)
		schema := s.schema(ref.Schema)
		n := len(schema.Objects)
		schema.Objects = slices.DeleteFunc(schema.Objects, func(o *catalog.Object) bool { return o.Kind == kind && o.Name == ref.Table })
		if n == len(schema.Objects) {
			return refuse(4043, "object %s does not exist", ref.Table)
		}
		return nil
	}
}

func (s *Session) commentTable(_ context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	c.Need("IS")
	text := c.Literal()
	if t := s.d.Catalog.Table(ref); t != nil {
		t.Comment = text
	} else if v := s.d.View(ref); v != nil {
		v.Comment = text
	} else {
		return &standin.Fault{Kind: standin.Missing, Name: ref.Table, Table: ref}
	}
	return nil
}

func (s *Session) commentColumn(_ context.Context, c *grammar.Cursor) error {
	names := []string{c.Name()}
	for c.Take(".") {
		names = append(names, c.Name())
	}
	c.Need("IS")
	text := c.Literal()
	n := len(names)
	ref := catalog.Ref{Schema: s.current, Table: names[max(0, n-2)]}
	if n == 3 {
		ref.Schema = names[0]
	}
	if t := s.d.Catalog.Table(ref); t != nil && t.Column(names[n-1]) != nil {
		t.Column(names[n-1]).Comment = text
		return nil
	}
	if v := s.d.View(ref); v != nil {
		for _, col := range v.Columns {
			if col.Name == names[n-1] {
				col.Comment = text
				return nil
			}
		}
	}
	return &standin.Fault{Kind: standin.NoColumn, Name: names[n-1], Table: ref}
}

// grant keeps what was granted; nobody is kept from anything.
func (s *Session) grant(_ context.Context, c *grammar.Cursor) error {
	var what []grant
	for {
		w := grant{what: strings.ToUpper(c.Word())}
		columns := []string{""}
		if c.Is("(") {
			columns = nil
			c.List(func() { columns = append(columns, c.Name()) })
		}
		for _, w.column = range columns {
			what = append(what, w)
		}
		if !c.Take(",") {
			break
		}
	}
	c.Need("ON")
	ref := s.ref(c)
	c.Need("TO")
	to, option := c.Name(), "NO"
	if c.Take("WITH", "GRANT", "OPTION") {
		option = "YES"
	}
	for _, g := range what {
		g.on, g.to, g.option = ref, to, option
		s.d.more.grants = append(slices.Clone(s.d.more.grants), g)
	}
	return nil
}
