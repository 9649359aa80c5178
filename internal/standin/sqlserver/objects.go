package sqlserver

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

func (s *client) schema(name string) *catalog.Schema {
	schema := s.db.Catalog.Schema(name)
	if schema == nil {
		grammar.Fail(refuse(2760, "The specified schema name \"%s\" either does not exist or you do not have permission to use it.", name))
	}
	return schema
}

func (s *client) sequence(ref catalog.Ref) (*catalog.Schema, int) {
	schema := s.schema(ref.Schema)
	return schema, slices.IndexFunc(schema.Sequences, func(q *catalog.Sequence) bool { return q.Name == ref.Table })
}

// createSequence: https://learn.microsoft.com/en-us/sql/t-sql/statements/create-sequence-transact-sql.
func (s *client) createSequence(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	schema, at := s.sequence(ref)
	if at >= 0 {
		return &standin.Fault{Kind: standin.Exists, Name: ref.Table, Table: ref}
	}
	q := &catalog.Sequence{Name: ref.Table, Type: "bigint", Increment: 1}
	if c.Take("AS") {
		q.Type = s.readType(c).Native
	}
	q.Least, q.Most = math.MinInt64, math.MaxInt64
	switch q.Type {
	case "tinyint":
		q.Least, q.Most = 0, 255
	case "smallint":
		q.Least, q.Most = math.MinInt16, math.MaxInt16
	case "int":
		q.Least, q.Most = math.MinInt32, math.MaxInt32
	}
	q.Start = q.Least
	s.counting(c, q)
	if q.Last = nil; q.Increment < 0 && q.Start == q.Least {
		q.Start = q.Most
	}
	schema.Sequences = append(schema.Sequences, q)
	return nil
}

func (s *client) counting(c *grammar.Cursor, q *catalog.Sequence) {
	for !c.Done() && !c.Is(";") {
		switch {
		case c.Take("START", "WITH"), c.Take("RESTART", "WITH"):
			q.Start = c.Number()
			q.Last = nil
		case c.Take("INCREMENT", "BY"):
			q.Increment = c.Number()
		case c.Take("NO", "MINVALUE"), c.Take("NO", "MAXVALUE"):
		case c.Take("MINVALUE"):
			q.Least = c.Number()
		case c.Take("MAXVALUE"):
			q.Most = c.Number()
		case c.Take("NO", "CYCLE"):
			q.Cycle = false
		case c.Take("CYCLE"):
			q.Cycle = true
		case c.Take("NO", "CACHE"):
			q.Cache = 1
		default:
			c.Need("CACHE")
			if q.Cache = 0; c.Peek(0).Kind == sqllex.Number {
				q.Cache = c.Number()
			}
		}
	}
}

func (s *client) alterSequence(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	schema, at := s.sequence(ref)
	if at < 0 {
		return refuse(15151, "Cannot alter the sequence '%s', because it does not exist or you do not have permission.", ref)
	}
	q := schema.Sequences[at].Clone()
	start := q.Start
	s.counting(c, q)
	if q.Start != start { // RESTART WITH says where it goes on
		last := q.Start - q.Increment
		q.Last, q.Start = &last, start
	}
	schema.Sequences[at] = q
	return nil
}

func (s *client) dropSequence(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	schema, at := s.sequence(ref)
	if at < 0 {
		return refuse(3701, "Cannot drop the sequence object '%s', because it does not exist or you do not have permission.", ref)
	}
	for _, t := range s.db.Catalog.Tables() {
		for _, col := range t.Columns {
			if s.names(col.Default, ref) {
				return refuse(3729, "Cannot DROP SEQUENCE '%s' because it is being referenced by object '%s'.", ref, col.DefaultName)
			}
		}
	}
	schema.Sequences = slices.Delete(schema.Sequences, at, at+1)
	return nil
}

func (s *client) createType(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	schema := s.schema(ref.Schema)
	c.Need("FROM")
	base := s.readType(c)
	required := c.Take("NOT", "NULL")
	_ = required || c.Take("NULL")
	schema.Types = append(schema.Types, &catalog.UserType{Name: ref.Table, Kind: catalog.DomainType, Base: &base, Required: required})
	return nil
}

func (s *client) dropType(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	for _, t := range s.db.Catalog.Tables() {
		for _, col := range t.Columns {
			if col.Type.Native == ref.String() {
				return refuse(3732, "Cannot drop type '%s' because it is being referenced by object '%s'.", ref, t.Name)
			}
		}
	}
	schema := s.schema(ref.Schema)
	schema.Types = slices.DeleteFunc(schema.Types, func(y *catalog.UserType) bool { return y.Name == ref.Table })
	return nil
}

func (s *client) createSynonym(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	c.Need("FOR")
	schema := s.schema(ref.Schema)
	schema.Objects = append(schema.Objects, &catalog.Object{Kind: "synonym", Name: ref.Table, Definition: c.Statement()})
	return nil
}

func (s *client) dropSynonym(_ context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	schema := s.schema(ref.Schema)
	schema.Objects = slices.DeleteFunc(schema.Objects, func(o *catalog.Object) bool { return o.Kind == "synonym" && o.Name == ref.Table })
	return nil
}

// module makes a view, a routine or a trigger, which takes the rest of the batch; again: in the
// place of the one that is there.
func module(again bool) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, ctx context.Context, c *grammar.Cursor) error {
		kind := strings.ToLower(c.Last())
		ref := c.Ref("dbo")
		text := c.Whole()
		if again { // the text that is kept says CREATE
			if i := strings.Index(strings.ToUpper(text), "ALTER"); i >= 0 {
				text = strings.Replace(text[:i], "CREATE OR ", "", 1) + "CREATE" + text[i+len("ALTER"):]
				text = strings.Replace(text, "CREATE OR CREATE", "CREATE", 1)
			}
		}
		schema := s.schema(ref.Schema)
		switch kind {
		case "view":
			return s.view(ctx, c, ref, text, again)
		case "trigger":
			return s.trigger(c, ref, text, again)
		}
		at := slices.IndexFunc(schema.Routines, func(f *catalog.Routine) bool { return f.Name == ref.Table })
		if at >= 0 && !again {
			return &standin.Fault{Kind: standin.Exists, Name: ref.Table, Table: ref}
		}
		f := &catalog.Routine{Name: ref.Table, Kind: kind, Definition: text}
		c.Rest()
		if at >= 0 {
			f.Comment = schema.Routines[at].Comment
			schema.Routines[at] = f
		} else {
			schema.Routines = append(schema.Routines, f)
		}
		return nil
	}
}

func (s *client) view(ctx context.Context, c *grammar.Cursor, ref catalog.Ref, text string, again bool) error {
	v := &catalog.View{Name: ref.Table, Definition: text}
	var columns []string
	if c.Is("(") {
		columns = c.Names()
	}
	if c.Take("WITH") {
		for {
			v.Options = append(v.Options, c.Word())
			if !c.Take(",") {
				break
			}
		}
	}
	c.Need("AS")
	for _, t := range s.db.Catalog.Tables() {
		if s.names(text, t.Ref()) {
			v.Reads = append(v.Reads, catalog.ObjectRef{Kind: catalog.KindTable, Schema: t.Schema, Name: t.Name})
		}
	}
	if again {
		if old := s.db.View(ref); old != nil {
			v.Comment, v.Indexes = old.Comment, old.Indexes
			if err := s.DropView(ctx, ref); err != nil {
				return err
			}
		}
	}
	query := strings.TrimSuffix(strings.TrimSpace(c.Rest()), ";")
	return s.CreateView(ctx, ref, v, strings.TrimSuffix(query, "WITH CHECK OPTION"), columns)
}

// trigger keeps one by its text: it is not carried out.
func (s *client) trigger(c *grammar.Cursor, ref catalog.Ref, text string, again bool) error {
	c.Need("ON")
	on := c.Ref(ref.Schema)
	t, err := s.db.Table(on)
	if err != nil {
		return refuse(8197, "The object '%s' does not exist or is invalid for this operation.", on)
	}
	if c.Take("WITH") {
		c.Word()
	}
	g := &catalog.Trigger{Name: ref.Table, Definition: text, Timing: strings.ToLower(c.OneOf("AFTER", "FOR", "INSTEAD OF"))}
	if g.Timing == "for" {
		g.Timing = "after"
	}
	for {
		g.Events = append(g.Events, strings.ToLower(c.OneOf("INSERT", "UPDATE", "DELETE")))
		if !c.Take(",") {
			break
		}
	}
	c.Need("AS")
	c.Rest()
	at := slices.IndexFunc(t.Triggers, func(o *catalog.Trigger) bool { return o.Name == g.Name })
	switch {
	case at >= 0 && !again:
		return &standin.Fault{Kind: standin.Exists, Name: g.Name, Table: on}
	case at >= 0:
		g.Comment, g.Enabled = t.Triggers[at].Comment, t.Triggers[at].Enabled
		t.Triggers[at] = g
	default:
		t.Triggers = append(t.Triggers, g)
	}
	return nil
}

func (s *client) dropView(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	ref := c.Ref("dbo")
	if s.db.View(ref) == nil {
		if quiet {
			return nil
		}
		return refuse(3701, "Cannot drop the view '%s', because it does not exist or you do not have permission.", ref)
	}
	return s.DropView(ctx, ref)
}

func (s *client) dropRoutine(_ context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	ref := c.Ref("dbo")
	schema := s.schema(ref.Schema)
	n := len(schema.Routines)
	schema.Routines = slices.DeleteFunc(schema.Routines, func(f *catalog.Routine) bool { return f.Name == ref.Table })
	if n == len(schema.Routines) && !quiet {
		return refuse(3701, "Cannot drop the procedure or function '%s', because it does not exist or you do not have permission.", ref)
	}
	return nil
}

// triggered is the table with the trigger of that name.
func (s *client) triggered(ref catalog.Ref) *catalog.Table {
	for _, t := range s.db.Catalog.Tables() {
		if t.Schema == ref.Schema && slices.ContainsFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == ref.Table }) {
			return t
		}
	}
	return nil
}

func (s *client) dropTrigger(_ context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	ref := c.Ref("dbo")
	t := s.triggered(ref)
	if t == nil {
		if quiet {
			return nil
		}
		return refuse(3701, "Cannot drop the trigger '%s', because it does not exist or you do not have permission.", ref)
	}
	t.Triggers = slices.DeleteFunc(t.Triggers, func(g *catalog.Trigger) bool { return g.Name == ref.Table })
	return nil
}

// trigger switches one, or all of a table.
func trigger(how string) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, _ context.Context, c *grammar.Cursor) error {
		name := "ALL"
		if !c.Take("ALL") {
			name = c.Ref("dbo").Table
		}
		c.Need("ON")
		t, err := s.db.Table(c.Ref("dbo"))
		if err != nil {
			return err
		}
		return s.switchTrigger(t, name, how)
	}
}

func (s *client) switchTrigger(t *catalog.Table, name, how string) error {
	found := name == "ALL"
	for _, g := range t.Triggers {
		if name == "ALL" || g.Name == name {
			g.Enabled, found = how, true
		}
	}
	if !found {
		return refuse(15151, "Cannot alter the trigger '%s', because it does not exist or you do not have permission.", name)
	}
	return nil
}

func (s *client) createStatistics(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("ON")
	t, err := s.db.Table(c.Ref("dbo"))
	if err != nil {
		return err
	}
	columns := c.Names()
	if err := standin.Columns(t, columns); err != nil {
		return err
	}
	all := map[string][]string{name: columns}
	for other, on := range s.db.more.statistics[t.Ref()] {
		all[other] = on
	}
	s.db.more.statistics[t.Ref()] = all
	return nil
}

func (s *client) updateStatistics(_ context.Context, c *grammar.Cursor) error {
	_, err := s.db.Table(c.Ref("dbo"))
	if err == nil && !c.Done() && !c.Is(";") {
		c.Statement() // which of them, and how many rows are looked at
	}
	return err
}

// checkIdent: with RESEED and no number the next is past the largest
// (https://learn.microsoft.com/en-us/sql/t-sql/database-console-commands/dbcc-checkident-transact-sql).
func (s *client) checkIdent(ctx context.Context, c *grammar.Cursor) error {
	c.Need("(")
	name := c.Literal()
	ref := grammar.New(s.db.Lexis(), name, func(n string) string { return n }).Ref("dbo")
	var value *int64
	if c.Take(",") {
		c.Need("RESEED")
		if c.Take(",") {
			n := c.Number()
			value = &n
		}
	}
	c.Need(")")
	if c.Take("WITH") {
		c.Need("NO_INFOMSGS")
	}
	t, err := s.db.Table(ref)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(t.Columns, func(c *catalog.Column) bool { return c.Identity == catalog.IdentityAlways })
	if i < 0 {
		return refuse(7997, "'%s' does not contain an identity column.", t.Name)
	}
	_, step := counts(t)
	if value == nil {
		largest, err := s.db.Count(ctx, fmt.Sprintf("SELECT ifnull(max(%s), 0) FROM %s", standin.Quote(t.Columns[i].Name), s.db.Stored(ref)))
		if err != nil {
			return err
		}
		value = &largest
		if t.Stats.Counter != nil && *t.Stats.Counter-step > largest {
			return nil
		}
	}
	next := *value + step
	t.Stats.Counter = &next
	return nil
}

// grants keeps what was granted or denied; nobody is kept from anything.
func grants(state string) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, _ context.Context, c *grammar.Cursor) error {
		var what []string
		for {
			what = append(what, strings.ToUpper(c.Word()))
			if !c.Take(",") {
				break
			}
		}
		c.Need("ON")
		_ = c.Take("OBJECT") && c.Take(":") && c.Take(":")
		ref := c.Ref("dbo")
		var columns []string
		if c.Is("(") {
			columns = c.Names()
		}
		c.Need("TO")
		to := c.Name()
		with := state
		if c.Take("WITH", "GRANT", "OPTION") {
			with = "W"
		}
		for _, w := range what {
			if columns == nil {
				s.db.more.grants = append(s.db.more.grants, grant{on: ref, to: to, what: w, state: with})
			}
			for _, col := range columns {
				s.db.more.grants = append(s.db.more.grants, grant{on: ref, column: col, to: to, what: w, state: with})
			}
		}
		return nil
	}
}
