package oracle

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// A production defines, alters or drops something.
type production struct {
	words string
	do    func(s *Session, ctx context.Context, c *grammar.Cursor) error
}

// productions are filled when the program starts, since a statement may hold another.
var productions []production

func init() {
	productions = []production{
		{"CREATE GLOBAL TEMPORARY TABLE", (*Session).createTemporary}, {"CREATE TABLE", (*Session).createTable}, {"DROP TABLE", (*Session).dropTable}, {"ALTER TABLE", (*Session).alterTable}, {"TRUNCATE TABLE", (*Session).truncate},
		{"CREATE UNIQUE INDEX", index(true, "btree")}, {"CREATE BITMAP INDEX", index(false, "bitmap")}, {"CREATE INDEX", index(false, "btree")}, {"ALTER INDEX", (*Session).alterIndex}, {"DROP INDEX", (*Session).dropIndex},
		{"CREATE SEQUENCE", (*Session).createSequence}, {"ALTER SEQUENCE", (*Session).alterSequence}, {"DROP SEQUENCE", (*Session).dropSequence},
		{"CREATE OR REPLACE VIEW", view(true)}, {"CREATE OR REPLACE FORCE VIEW", view(true)}, {"CREATE VIEW", view(false)}, {"DROP VIEW", (*Session).dropView}, {"CREATE MATERIALIZED VIEW LOG ON", (*Session).createLog}, {"CREATE MATERIALIZED VIEW", (*Session).createMaterialized}, {"DROP MATERIALIZED VIEW", (*Session).dropView},
		{"CREATE OR REPLACE TRIGGER", trigger(true)}, {"CREATE TRIGGER", trigger(false)}, {"ALTER TRIGGER", (*Session).alterTrigger}, {"DROP TRIGGER", (*Session).dropTrigger},
		{"CREATE OR REPLACE PACKAGE BODY", routine("package body")}, {"CREATE OR REPLACE PACKAGE", routine("package")}, {"CREATE OR REPLACE PROCEDURE", routine("procedure")}, {"CREATE OR REPLACE FUNCTION", routine("function")},
		{"CREATE PACKAGE BODY", routine("package body")}, {"CREATE PACKAGE", routine("package")}, {"CREATE PROCEDURE", routine("procedure")}, {"CREATE FUNCTION", routine("function")},
		{"DROP PACKAGE BODY", dropRoutine("package body")}, {"DROP PACKAGE", dropRoutine("package")}, {"DROP PROCEDURE", dropRoutine("procedure")}, {"DROP FUNCTION", dropRoutine("function")},
		{"CREATE OR REPLACE TYPE", (*Session).createType}, {"CREATE TYPE", (*Session).createType}, {"DROP TYPE", dropObject("type")},
		{"CREATE OR REPLACE SYNONYM", (*Session).createSynonym}, {"CREATE SYNONYM", (*Session).createSynonym}, {"DROP SYNONYM", dropObject("synonym")}, {"CREATE DATABASE LINK", (*Session).createLink},
		{"COMMENT ON TABLE", (*Session).commentTable}, {"COMMENT ON COLUMN", (*Session).commentColumn}, {"GRANT", (*Session).grant}, {"CREATE USER", (*Session).createUser},
	}
}

func (s *Session) define(ctx context.Context, c *grammar.Cursor) error {
	for _, p := range productions {
		if c.Take(strings.Fields(p.words)...) {
			if err := p.do(s, ctx, c); err != nil {
				return err
			}
			c.End()
			return nil
		}
	}
	words := strings.Fields(c.Statement())
	return refuse(900, "invalid SQL statement, or one that the simulated dictionary does not know: %s", strings.Join(words[:min(4, len(words))], " "))
}

func (s *Session) createUser(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Rest()
	s.d.Schema(name)
	return nil
}

// A making is a table that is being read, with what comes once it is there.
type making struct {
	s     *Session
	t     *catalog.Table
	fresh bool // the table is being made
	later []func(ctx context.Context) error
}

func (m *making) do(f func(ctx context.Context) error) { m.later = append(m.later, f) }

func (m *making) finish(ctx context.Context) error {
	for _, do := range m.later {
		if err := do(ctx); err != nil {
			return err
		}
	}
	return nil
}

func (s *Session) createTemporary(ctx context.Context, c *grammar.Cursor) error {
	return s.create(ctx, c, true)
}

func (s *Session) createTable(ctx context.Context, c *grammar.Cursor) error {
	return s.create(ctx, c, false)
}

// create: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-TABLE.html.
func (s *Session) create(ctx context.Context, c *grammar.Cursor, temporary bool) error {
	ref := s.ref(c)
	m := &making{s: s, t: &catalog.Table{Schema: ref.Schema, Name: ref.Table, Kind: catalog.Ordinary}, fresh: true}
	if s.d.Catalog.Schema(ref.Schema) == nil {
		return refuse(1918, "user '%s' does not exist", ref.Schema)
	}
	c.List(func() {
		if m.constraint(c) {
			return
		}
		col := m.column(c)
		if m.t.Column(col.Name) != nil {
			grammar.Fail(refuse(957, "duplicate column name"))
		}
		if slices.ContainsFunc(m.t.Columns, func(o *catalog.Column) bool { return strings.EqualFold(o.Name, col.Name) }) {
			grammar.Fail(fmt.Errorf("the paper dictionary cannot keep rows of columns whose names differ in capitals alone, as %q does from another", col.Name))
		}
		m.t.Columns = append(m.t.Columns, col)
	})
	if temporary {
		m.t.Options = append(m.t.Options, "temporary, rows of a transaction")
		if c.Take("ON", "COMMIT") {
			if c.OneOf("PRESERVE", "DELETE") == "PRESERVE" {
				m.t.Options[0] = "temporary, rows of a session"
			}
			c.Need("ROWS")
		}
	}
	m.properties(c)
	if n := len(slices.DeleteFunc(slices.Clone(m.t.Columns), func(c *catalog.Column) bool { return c.Identity == catalog.NoIdentity })); n > 1 {
		return refuse(30669, "table can have only one identity column")
	}
	if err := s.CreateTable(ctx, m.t); err != nil {
		return err
	}
	return m.finish(ctx)
}

// properties stand behind the columns of a table.
func (m *making) properties(c *grammar.Cursor) {
	t := m.t
	var storage []string
	for !c.Done() && !c.Is(";") {
		switch {
		case c.Take("ORGANIZATION", "INDEX"):
			t.Options = append(t.Options, "index organized")
		case c.Take("TABLESPACE"):
			m.s.d.more.spaces["table "+t.Ref().String()] = c.Name()
		case c.Take("PCTFREE"):
			storage = append(storage, fmt.Sprintf("PCTFREE %d", c.Number()))
		case c.Take("ROW", "STORE", "COMPRESS"):
			storage = append(storage, "COMPRESS "+c.OneOf("BASIC", "ADVANCED"))
		case c.Take("COLUMN", "STORE", "COMPRESS", "FOR"):
			storage = append(storage, "COMPRESS "+c.OneOf("QUERY LOW", "QUERY HIGH", "ARCHIVE LOW", "ARCHIVE HIGH"))
		case c.Take("NOLOGGING"):
			storage = append(storage, "NOLOGGING")
		case c.Take("PARTITION", "BY"):
			m.partitioned(c, m.t)
		default:
			c.Need("PARTITION", "BY")
		}
	}
	t.Storage = strings.Join(storage, ", ")
}

// column reads a column's definition; its constraints are added once it is there.
func (m *making) column(c *grammar.Cursor) *catalog.Column {
	col := &catalog.Column{Name: c.Name(), Nullable: true}
	if c.Is("GENERATED") || c.Is("AS") {
		col.Type = number(-1, -1)
	} else {
		col.Type = readType(c)
	}
	constrained := false
	for !c.Done() && !c.Is(",") && !c.Is(")") && !c.Is(";") {
		switch {
		case constrained && (c.Is("DEFAULT") || c.Is("GENERATED") || c.Is("INVISIBLE")): // they come first
			grammar.Fail(refuse(907, "missing right parenthesis"))
		case c.Take("COLLATE"):
			col.Type.Collation = c.Name()
		case c.Take("INVISIBLE"):
			col.Invisible = true
		case c.Take("VISIBLE"):
			col.Invisible = false
		case c.Take("DEFAULT"):
			m.byDefault(c, col)
		case c.Is("GENERATED", "ALWAYS", "AS", "("), c.Is("AS", "("):
			c.Take("GENERATED", "ALWAYS")
			c.Need("AS")
			col.Generated = c.Bracketed()
			c.Take("VIRTUAL")
		case c.Take("GENERATED"):
			m.identity(c, col)
		default:
			constrained = true
			m.ofColumn(c, col)
		}
	}
	return col
}

var behindDefault = []string{"CONSTRAINT", "NOT NULL", "NULL", "PRIMARY KEY", "UNIQUE", "CHECK", "REFERENCES", "ENABLE", "DISABLE"}

func (m *making) byDefault(c *grammar.Cursor, col *catalog.Column) {
	col.Options = slices.DeleteFunc(col.Options, func(o string) bool { return o == "default on null" })
	if c.Take("ON", "NULL") {
		col.Options = append(col.Options, "default on null")
		col.Nullable = false
	}
	if col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault {
		grammar.Fail(refuse(30674, "identity column cannot have a default value"))
	}
	text := c.Until(behindDefault...)
	col.Identity, col.Sequence = catalog.NoIdentity, nil
	col.Default = m.s.normal(text)
}

// normal is a default as the dictionary keeps it: one that draws from a sequence has all names in
// quotes.
func (s *Session) normal(text string) string {
	c := grammar.New(s.d.Lexis(), text, bare)
	var names []string
	if grammar.Read(func() {
		names = append(names, c.Name())
		for c.Take(".") {
			names = append(names, c.Name())
		}
		c.End()
	}) != nil || len(names) < 2 || names[len(names)-1] != "NEXTVAL" {
		return text
	}
	if len(names) == 2 {
		names = append([]string{s.current}, names...)
	}
	if schema := s.d.Catalog.Schema(names[0]); schema == nil || !slices.ContainsFunc(schema.Sequences, func(q *catalog.Sequence) bool { return q.Name == names[1] }) {
		grammar.Fail(refuse(2289, "sequence does not exist"))
	}
	return quoted(names[0]) + "." + quoted(names[1]) + "." + quoted(names[2])
}

// identity reads what stands behind GENERATED.
func (m *making) identity(c *grammar.Cursor, col *catalog.Column) {
	col.Options = slices.DeleteFunc(col.Options, func(o string) bool { return strings.HasPrefix(o, "identity ") })
	col.Identity = catalog.IdentityAlways
	if !c.Take("ALWAYS") {
		c.Need("BY", "DEFAULT")
		col.Identity = catalog.IdentityByDefault
		if c.Take("ON", "NULL") {
			col.Options = append(col.Options, "identity on null")
		}
	}
	c.Need("AS", "IDENTITY")
	col.Nullable = false
	ref, name := m.t.Ref(), col.Name
	q := &catalog.Sequence{Name: fmt.Sprintf("ISEQ$$_%d", m.s.d.number()), Start: 1, Increment: 1, Least: 1, Most: sequenceMost, Cache: 20}
	limit, given := false, c.Ahead("START", "WITH")
	if c.Take("(") {
		limit = m.s.counting(c, q)
		c.Need(")")
	}
	m.do(func(ctx context.Context) error {
		t := m.s.d.Catalog.Table(ref)
		if limit {
			n, err := m.s.d.Count(ctx, fmt.Sprintf("SELECT ifnull(max(%s), 0) + 1 FROM %s", standin.Quote(name), m.s.d.Stored(ref)))
			if err != nil {
				return err
			}
			q.Start = n
		}
		schema := m.s.d.Catalog.Schema(ref.Schema)
		if old := m.s.d.more.counters[ref]; old != "" {
			for i, was := range schema.Sequences {
				if was.Name == old {
					q.Name = old
					schema.Sequences = slices.Delete(schema.Sequences, i, i+1)
					break
				}
			}
		}
		schema.Sequences = append(schema.Sequences, q)
		m.s.d.more.counters[ref] = q.Name
		if m.fresh || limit || given || t.Stats.Counter == nil {
			start := q.Start
			t.Stats.Counter = &start
		}
		return nil
	})
}

// ofColumn reads a constraint of a column.
func (m *making) ofColumn(c *grammar.Cursor, col *catalog.Column) {
	name, bySystem := m.called(c)
	switch {
	case c.Take("NOT", "NULL"):
		st := m.state(c)
		ref, column := m.t.Ref(), col.Name
		switch {
		case st.off, st.unchecked:
			m.check(name, bySystem, quoted(col.Name)+" IS NOT NULL", st)
		default:
			col.Nullable = false
			m.do(func(context.Context) error {
				m.s.d.more.nulls[state{ref, column}] = name
				if bySystem {
					m.s.d.more.named[state{ref, name}] = true
				}
				return nil
			})
		}
	case c.Take("NULL"):
		col.Nullable = true
	case c.Take("CHECK"):
		m.check(name, bySystem, c.Bracketed(), m.state(c))
	case c.Is("PRIMARY", "KEY"), c.Is("UNIQUE"):
		m.key(c, name, bySystem, c.OneOf("PRIMARY KEY", "UNIQUE") == "PRIMARY KEY", []string{col.Name})
	case c.Is("REFERENCES"):
		m.reference(c, name, bySystem, []string{col.Name})
	default:
		c.Need("NOT", "NULL")
	}
}

// called is the name of a constraint, or the system's own.
func (m *making) called(c *grammar.Cursor) (name string, bySystem bool) {
	if c.Take("CONSTRAINT") {
		return c.Name(), false
	}
	return fmt.Sprintf("SYS_C%07d", m.s.d.number()), true
}

// constraint reads one of a table, and reports whether there was one.
func (m *making) constraint(c *grammar.Cursor) bool {
	if !c.Is("CONSTRAINT") && !c.Is("PRIMARY", "KEY") && !c.Is("UNIQUE", "(") && !c.Is("FOREIGN", "KEY") && !c.Is("CHECK", "(") {
		return false
	}
	name, bySystem := m.called(c)
	switch {
	case c.Take("CHECK"):
		m.check(name, bySystem, c.Bracketed(), m.state(c))
	case c.Take("FOREIGN", "KEY"):
		m.reference(c, name, bySystem, c.Names())
	default:
		primary := c.OneOf("PRIMARY KEY", "UNIQUE") == "PRIMARY KEY"
		m.key(c, name, bySystem, primary, c.Names())
	}
	return true
}

// state reads how a constraint is kept
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html, constraint_state).
func (m *making) state(c *grammar.Cursor) states {
	var st states
	for {
		switch {
		case c.Take("NOT", "DEFERRABLE"):
		case c.Take("DEFERRABLE"):
			st.deferrable = true
		case c.Take("INITIALLY", "IMMEDIATE"):
		case c.Take("INITIALLY", "DEFERRED"):
			st.deferrable, st.deferred = true, true
		case c.Take("RELY"):
			st.rely = true
		case c.Take("NORELY"):
		case c.Take("ENABLE"):
			st.off = false
		case c.Take("DISABLE"):
			st.off, st.unchecked = true, true
		case c.Take("NOVALIDATE"):
			st.unchecked = true
		case c.Take("VALIDATE"):
			st.unchecked = false
		default:
			return st
		}
	}
}

// noted keeps what is known of a constraint besides.
func (m *making) noted(name string, bySystem bool, st states) {
	at := state{m.t.Ref(), name}
	m.s.d.more.states[at] = st
	if bySystem {
		m.s.d.more.named[at] = true
	}
}

func (m *making) check(name string, bySystem bool, expression string, st states) {
	k := &catalog.Check{Name: name, Expression: expression, NotValidated: st.unchecked, NotEnforced: st.off}
	m.do(func(ctx context.Context) error {
		m.noted(name, bySystem, st)
		return named(m.s.AddCheck(ctx, m.t.Ref(), k, !st.unchecked))
	})
}

// key reads [state] [USING INDEX name | (CREATE INDEX ...)].
func (m *making) key(c *grammar.Cursor, name string, bySystem, primary bool, columns []string) {
	st := m.state(c)
	using, text := "", ""
	if c.Take("USING", "INDEX") {
		switch {
		case c.Is("("):
			text = c.Bracketed()
		case c.Take("TABLESPACE"):
			c.Name()
		default:
			using = m.s.ref(c).Table
		}
	}
	after := m.state(c)
	st.off, st.unchecked, st.rely = st.off || after.off, st.unchecked || after.unchecked, st.rely || after.rely
	m.do(func(ctx context.Context) error {
		m.noted(name, bySystem, st)
		t := m.s.d.Catalog.Table(m.t.Ref())
		if err := standin.Columns(t, columns); err != nil {
			return err
		}
		if primary && t.PrimaryKey != nil {
			return &standin.Fault{Kind: standin.HasKey, Name: name, Table: t.Ref()}
		}
		for _, k := range t.Keys() {
			if slices.Equal(k.Columns, columns) {
				return refuse(2261, "such unique or primary key already exists in the table")
			}
		}
		k := &catalog.Key{Name: name, Columns: columns, Deferrable: st.deferrable, Deferred: st.deferred}
		if st.off {
			m.s.d.more.states[state{t.Ref(), name}] = st
			kind := "disabled unique"
			if primary {
				kind = "disabled primary"
			}
			t.Objects = append(t.Objects, &catalog.Object{Kind: kind, Name: name, Definition: strings.Join(columns, "\x00")})
			return nil
		}
		return m.withIndex(ctx, t, k, primary, using, text)
	})
}

// named is the error of a constraint whose name another has.
func named(err error) error {
	var f *standin.Fault
	if errors.As(err, &f) && f.Kind == standin.Exists {
		return refuse(2264, "name already used by an existing constraint: %s", f.Name)
	}
	return err
}

// withIndex adds a key with the index behind it: one that is there, one that the text makes, or
// the engine's own.
func (m *making) withIndex(ctx context.Context, t *catalog.Table, k *catalog.Key, primary bool, using, text string) error {
	if text != "" {
		if err := m.s.exec2(ctx, text); err != nil {
			return err
		}
		ic := grammar.New(m.s.d.Lexis(), text, bare)
		_ = ic.Take("CREATE") && (ic.Take("UNIQUE") || true)
		ic.Need("INDEX")
		using = m.s.ref(ic).Table
	}
	if primary {
		for _, n := range k.Columns {
			col := t.Column(n)
			if !col.Nullable {
				continue
			}
			rows, err := m.s.d.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s IS NULL", m.s.d.Stored(t.Ref()), standin.Quote(n)))
			if err != nil {
				return err
			}
			if rows > 0 {
				return refuse(1449, "column contains NULL values; cannot alter to NOT NULL")
			}
			col.Nullable = false
		}
	}
	origin := catalog.ByUniqueKey
	if primary {
		origin = catalog.ByPrimaryKey
	}
	if using == "" { // one that serves, or a new one
		for _, x := range t.Indexes {
			if x.Origin == catalog.ByPerson && !x.Invalid && slices.Equal(x.Columns(), k.Columns) && (x.Unique || k.Deferrable) {
				using = x.Name
			}
		}
	}
	if using != "" {
		x := t.Index(using)
		if x == nil {
			return refuse(14196, "Specified index cannot be used to enforce the constraint.")
		}
		if len(x.Parts) < len(k.Columns) || !slices.Equal(x.Columns()[:len(k.Columns)], k.Columns) {
			return refuse(14196, "Specified index cannot be used to enforce the constraint.")
		}
		x.Origin, k.Index = origin, x.Name
		if primary {
			t.PrimaryKey = k
		} else {
			t.UniqueKeys = append(t.UniqueKeys, k)
		}
		return m.s.Guard(ctx, t)
	}
	x := &catalog.Index{Name: k.Name, Origin: origin, Method: "btree", Unique: !k.Deferrable, Clustered: primary && t.Has("index organized")}
	for _, n := range k.Columns {
		x.Parts = append(x.Parts, catalog.IndexPart{Column: n})
	}
	if err := m.s.suits(t, x); err != nil {
		return err
	}
	k.Index = x.Name
	err := named(m.s.AddKey(ctx, t.Ref(), k, primary, x))
	var f *standin.Fault
	if primary && errors.As(err, &f) && f.Kind == standin.Repeats {
		return refuse(2437, "cannot validate (%s) - primary key violated", f.Name)
	}
	return err
}

// exec2 carries out a statement within another.
func (s *Session) exec2(ctx context.Context, text string) error {
	var err error
	if e := grammar.Read(func() { err = s.define(ctx, grammar.New(s.d.Lexis(), text, bare)) }); e != nil {
		return e
	}
	return err
}

// reference reads REFERENCES target [(columns)] [ON DELETE ...] [state].
func (m *making) reference(c *grammar.Cursor, name string, bySystem bool, columns []string) {
	c.Need("REFERENCES")
	f := &catalog.ForeignKey{Name: name, Columns: columns, Target: m.s.ref(c), OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction}
	if c.Is("(") {
		f.TargetColumns = c.Names()
	}
	if c.Take("ON", "DELETE") {
		f.OnDelete = catalog.Action(strings.ToLower(c.OneOf("CASCADE", "SET NULL")))
	}
	st := m.state(c)
	f.NotValidated, f.Disabled, f.Deferrable, f.Deferred = st.unchecked, st.off, st.deferrable, st.deferred
	m.do(func(ctx context.Context) error {
		m.noted(name, bySystem, st)
		to := m.s.d.Catalog.Table(f.Target)
		t := m.s.d.Catalog.Table(m.t.Ref())
		if to == nil {
			return &standin.Fault{Kind: standin.Missing, Name: f.Target.Table, Table: f.Target}
		}
		if f.TargetColumns == nil && to.PrimaryKey != nil {
			f.TargetColumns = to.PrimaryKey.Columns
		}
		if err := m.s.fits(t, f, to); err != nil {
			return err
		}
		return named(m.s.AddForeignKey(ctx, m.t.Ref(), f, !st.unchecked))
	})
}

// fits says what the engine would have against a foreign key: no key, of which an index alone is
// none, and types of other kinds.
func (s *Session) fits(t *catalog.Table, f *catalog.ForeignKey, to *catalog.Table) error {
	if err := standin.Columns(t, f.Columns); err != nil {
		return err
	}
	if err := standin.Columns(to, f.TargetColumns); err != nil {
		return err
	}
	for _, o := range t.ForeignKeys {
		if o.Target == f.Target && slices.Equal(o.Columns, f.Columns) && slices.Equal(o.TargetColumns, f.TargetColumns) {
			return refuse(2275, "such a referential constraint already exists in the table")
		}
	}
	if !slices.ContainsFunc(to.Keys(), func(k *catalog.Key) bool { return catalog.SameColumns(k.Columns, f.TargetColumns) }) {
		return &standin.Fault{Kind: standin.NoUniqueKey, Name: f.Name, Table: t.Ref()}
	}
	for i, n := range f.Columns {
		a, b := describe(t.Column(n).Type), describe(to.Column(f.TargetColumns[i]).Type)
		if a.name != b.name {
			return refuse(2267, "column type incompatible with referenced column type")
		}
	}
	for _, k := range to.Keys() {
		if catalog.SameColumns(k.Columns, f.TargetColumns) {
			f.TargetIndex = k.Index
			return nil
		}
	}
	return &standin.Fault{Kind: standin.NoUniqueKey, Name: f.Name, Table: to.Ref()}
}

func (s *Session) dropTable(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	cascade := c.Take("CASCADE", "CONSTRAINTS")
	c.Take("PURGE")
	t, err := s.d.Table(ref)
	if err != nil {
		return err
	}
	for _, o := range s.d.Catalog.Tables() {
		for _, f := range slices.Clone(o.ForeignKeys) {
			if f.Target != ref || o == t {
				continue
			}
			if !cascade {
				return refuse(2449, "unique/primary keys in table referenced by foreign keys")
			}
			if err := s.DropConstraint(ctx, o.Ref(), f.Name); err != nil {
				return err
			}
		}
	}
	s.dropCounter(ref)
	s.invalidate(catalog.ObjectRef{Kind: catalog.KindTable, Schema: ref.Schema, Name: ref.Table})
	return s.DropTable(ctx, ref)
}

// dropCounter drops the sequence behind an identity column.
func (s *Session) dropCounter(ref catalog.Ref) {
	if name := s.d.more.counters[ref]; name != "" {
		schema := s.d.Catalog.Schema(ref.Schema)
		schema.Sequences = slices.DeleteFunc(schema.Sequences, func(q *catalog.Sequence) bool { return q.Name == name })
		delete(s.d.more.counters, ref)
	}
}

func (s *Session) truncate(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	t, err := s.d.Table(ref)
	if err != nil {
		return err
	}
	for _, o := range s.d.Refers(ref) {
		for _, f := range o.ForeignKeys {
			if f.Target == ref && o != t && !f.Disabled {
				return refuse(2266, "unique/primary keys in table referenced by enabled foreign keys")
			}
		}
	}
	return s.d.Do(ctx, "DELETE FROM "+s.d.Stored(ref))
}
