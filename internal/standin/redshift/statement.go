package redshift

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

// A fault is an error with the code that the engine gives it.
type fault struct{ code, message string }

func (f *fault) Error() string { return f.message }

func refuse(code, format string, args ...any) error {
	return &fault{code, fmt.Sprintf(format, args...)}
}

// beyond is the answer to what the stand-in does not know.
func beyond(what string) error {
	return refuse("0A000", "the simulated cluster does not know %s", what)
}

// understood says what went wrong in the engine's words
// (https://www.postgresql.org/docs/current/errcodes-appendix.html).
func (s *client) understood(err error) error {
	var coded *fault
	var f *standin.Fault
	var syntax *grammar.SyntaxError
	switch {
	case err == nil || errors.As(err, &coded):
		return err
	case errors.As(err, &syntax):
		return refuse("42601", "syntax error: %s", syntax)
	case errors.As(err, &f):
		switch f.Kind {
		case standin.Exists:
			return refuse("42P07", `"%s" already exists`, f.Name)
		case standin.Missing:
			return refuse("42P01", `"%s" does not exist`, f.Name)
		case standin.NoColumn:
			return refuse("42703", `column "%s" does not exist`, f.Name)
		case standin.HasKey:
			return refuse("42P16", `multiple primary keys for table "%s" are not allowed`, f.Table.Table)
		case standin.LeanedOn:
			return refuse("2BP01", `cannot drop "%s" because other objects depend on it: %s`, f.Name, f.By)
		case standin.NotEmpty:
			return refuse("23502", `column "%s" is required and has no default`, f.Name)
		}
		return refuse("XX000", "%s", f)
	}
	if b := s.Told(err); b != nil {
		if b.Kind == "null" {
			return refuse("23502", `null value in column "%s" violates not-null constraint`, b.Column)
		}
		return refuse("22001", "value of column %s is too long or does not fit", b.Column)
	}
	text := err.Error()
	for _, x := range []struct{ says, code string }{{"no such table", "42P01"}, {"no such column", "42703"}, {"no such function", "42883"}, {"syntax error", "42601"}} {
		if strings.Contains(text, x.says) {
			return refuse(x.code, "%s: the simulated cluster has none", text)
		}
	}
	return refuse("XX000", "%s", text)
}

// A statement is a production of the grammar, and the tag that tells that it was carried out.
type statement struct {
	words []string
	tag   string
	do    func(s *client, ctx context.Context, c *grammar.Cursor) error
}

var statements = []statement{
	{[]string{"CREATE", "SCHEMA"}, "CREATE SCHEMA", (*client).createSchema},
	{[]string{"DROP", "SCHEMA"}, "DROP SCHEMA", (*client).dropSchema},
	{[]string{"CREATE", "TABLE"}, "CREATE TABLE", (*client).createTable},
	{[]string{"DROP", "TABLE"}, "DROP TABLE", (*client).dropTable},
	{[]string{"CREATE", "VIEW"}, "CREATE VIEW", (*client).createView},
	{[]string{"CREATE", "OR", "REPLACE", "VIEW"}, "CREATE VIEW", (*client).createView},
	{[]string{"ALTER", "TABLE"}, "ALTER TABLE", (*client).alterTable},
	{[]string{"COMMENT", "ON"}, "COMMENT", (*client).comment},
	{[]string{"VACUUM"}, "VACUUM", (*client).vacuum},
	{[]string{"ANALYZE"}, "ANALYZE", (*client).analyze},
	{[]string{"LOCK"}, "LOCK TABLE", func(_ *client, _ context.Context, c *grammar.Cursor) error { c.Rest(); return nil }},
}

// execute carries out one statement that gives no rows, and returns its tag.
func (s *client) execute(ctx context.Context, sql string) (string, error) {
	c := grammar.New(s.c.Lexis(), sql, strings.ToLower)
	for _, st := range statements {
		if !c.Take(st.words...) {
			continue
		}
		return st.tag, s.Alter(ctx, func() error {
			var err error
			if failed := grammar.Read(func() { err = st.do(s, ctx, c) }); failed != nil {
				return failed
			}
			clear(s.c.counted)
			return err
		})
	}
	return s.write(ctx, c, sql)
}

// write adds, alters or removes rows.
func (s *client) write(ctx context.Context, c *grammar.Cursor, sql string) (string, error) {
	tag := ""
	switch {
	case c.Take("INSERT", "INTO"):
		tag = "INSERT 0 "
	case c.Take("DELETE", "FROM"):
		tag = "DELETE "
	case c.Take("UPDATE"):
		tag = "UPDATE "
	default:
		words := strings.Fields(sql)
		return "", beyond("this statement: " + strings.Join(words[:min(4, len(words))], " "))
	}
	var ref catalog.Ref
	if err := grammar.Read(func() { ref = c.Ref(s.Path[0]) }); err != nil {
		return "", err
	}
	if _, err := s.c.Table(ref); err != nil {
		return "", err
	}
	n, err := s.Write(ctx, sql)
	if err != nil {
		return "", err
	}
	w := s.c.wear[ref]
	switch w.changed += n; tag[0] {
	case 'I':
		w.unsorted += n
	case 'D':
		w.dead, w.unsorted = w.dead+n, max(0, w.unsorted-n)
	default:
		w.dead, w.unsorted = w.dead+n, w.unsorted+n
	}
	s.c.wear[ref] = w
	delete(s.c.counted, ref)
	return fmt.Sprintf("%s%d", tag, n), nil
}

func (s *client) createSchema(_ context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "NOT", "EXISTS")
	name := c.Name()
	c.End()
	if s.c.Catalog.Schema(name) != nil && !quiet {
		return refuse("42P06", `schema "%s" already exists`, name)
	}
	s.c.Schema(name)
	return nil
}

func (s *client) dropSchema(ctx context.Context, c *grammar.Cursor) error {
	c.Take("IF", "EXISTS")
	schema := s.c.Catalog.Schema(c.Name())
	cascade := c.Take("CASCADE")
	c.End()
	if schema == nil {
		return nil
	}
	if !cascade && schema.Size() > 0 {
		return refuse("2BP01", `cannot drop schema "%s" because other objects depend on it`, schema.Name)
	}
	for _, v := range slices.Clone(schema.Views) {
		if err := s.DropView(ctx, catalog.Ref{Schema: schema.Name, Table: v.Name}); err != nil {
			return err
		}
	}
	for _, t := range schema.Tables {
		t.ForeignKeys = nil
	}
	for _, t := range slices.Clone(schema.Tables) {
		if err := s.DropTable(ctx, t.Ref()); err != nil {
			return err
		}
	}
	s.c.Catalog.Schemas = slices.DeleteFunc(s.c.Catalog.Schemas, func(o *catalog.Schema) bool { return o.Name == schema.Name })
	return nil
}

func (s *client) createTable(ctx context.Context, c *grammar.Cursor) error {
	c.Take("IF", "NOT", "EXISTS")
	ref := c.Ref(s.Path[0])
	t := &catalog.Table{Schema: ref.Schema, Name: ref.Table, Kind: catalog.Ordinary, Spread: &catalog.Spread{Style: "auto"}}
	var keys []func() error
	c.List(func() {
		if c.Is("CONSTRAINT") || c.Is("PRIMARY", "KEY") || c.Is("UNIQUE") || c.Is("FOREIGN", "KEY") {
			name := fmt.Sprintf("%s_key%d", t.Name, len(keys)+1)
			if c.Take("CONSTRAINT") {
				name = c.Name()
			}
			keys = append(keys, s.constraint(ctx, c, ref, name))
			return
		}
		s.column(c, t)
	})
	for !c.Done() && !c.Is(";") {
		switch {
		case c.Take("DISTSTYLE"):
			t.Spread.Style = strings.ToLower(c.OneOf("KEY", "ALL", "EVEN", "AUTO"))
		case c.Take("DISTKEY"):
			t.Spread.Style, t.Spread.Column = "key", c.Names()[0]
		default:
			interleaved := c.Take("INTERLEAVED")
			_ = interleaved || c.Take("COMPOUND")
			c.Need("SORTKEY")
			t.SortKey = &catalog.SortKey{Columns: c.Names(), Interleaved: interleaved}
		}
	}
	c.End()
	var named []string
	if t.SortKey != nil {
		named = t.SortKey.Columns
	}
	if t.Spread.Column != "" {
		named = append(slices.Clone(named), t.Spread.Column)
	}
	if err := standin.Columns(t, named); err != nil {
		return err
	}
	if err := s.CreateTable(ctx, t); err != nil {
		return err
	}
	for _, add := range keys {
		if err := add(); err != nil {
			return err
		}
	}
	return nil
}

// constraint reads one, and returns what adds it.
func (s *client) constraint(ctx context.Context, c *grammar.Cursor, on catalog.Ref, name string) func() error {
	switch kind := c.OneOf("PRIMARY KEY", "UNIQUE", "FOREIGN KEY"); kind {
	case "FOREIGN KEY":
		f := &catalog.ForeignKey{Name: name, Columns: c.Names()}
		c.Need("REFERENCES")
		f.Target, f.TargetColumns = c.Ref(s.Path[0]), c.Names()
		return func() error { return s.AddForeignKey(ctx, on, f, false) }
	default:
		k := &catalog.Key{Name: name, Columns: c.Names()}
		return func() error { return s.AddKey(ctx, on, k, kind == "PRIMARY KEY", nil) }
	}
}

// types are the names that the catalog has for the others, and what the types hold
// (https://docs.aws.amazon.com/redshift/latest/dg/c_Supported_data_types.html).
var types = []struct {
	names  []string
	native string
	family catalog.Family
	bits   int
}{
	{[]string{"smallint", "int2"}, "smallint", catalog.Integer, 16},
	{[]string{"integer", "int", "int4"}, "integer", catalog.Integer, 32},
	{[]string{"bigint", "int8"}, "bigint", catalog.Integer, 64},
	{[]string{"numeric", "decimal"}, "numeric", catalog.Decimal, 0},
	{[]string{"real", "float4"}, "real", catalog.Float, 0},
	{[]string{"double precision", "float8", "float"}, "double precision", catalog.Float, 0},
	{[]string{"boolean", "bool"}, "boolean", catalog.Boolean, 0},
	{[]string{"character varying", "varchar"}, "character varying", catalog.Text, 0},
	{[]string{"text"}, "character varying(256)", catalog.Text, 0},
	{[]string{"character", "char"}, "character", catalog.Text, 0},
	{[]string{"date"}, "date", catalog.Date, 0},
	{[]string{"timestamp with time zone", "timestamptz"}, "timestamp with time zone", catalog.Timestamp, 0},
	{[]string{"timestamp without time zone", "timestamp"}, "timestamp without time zone", catalog.Timestamp, 0},
	{[]string{"time without time zone", "time"}, "time without time zone", catalog.Time, 0},
}

func typeOf(c *grammar.Cursor) catalog.Type {
	for _, k := range types {
		for _, name := range k.names {
			if !c.Take(strings.Fields(name)...) {
				continue
			}
			t := catalog.Type{Native: k.native, Family: k.family, Bits: k.bits}
			if c.Is("(") {
				var sizes []string
				c.List(func() { sizes = append(sizes, fmt.Sprint(c.Number())) })
				t.Native += "(" + strings.Join(sizes, ",") + ")"
				if k.family == catalog.Text {
					fmt.Sscan(sizes[0], &t.Length)
				}
			}
			return t
		}
	}
	grammar.Fail(refuse("42704", `type "%s" does not exist`, c.Peek(0).Text))
	return catalog.Type{}
}

func (s *client) column(c *grammar.Cursor, t *catalog.Table) *catalog.Column {
	col := &catalog.Column{Name: c.Name(), Nullable: true, Encoding: "raw"}
	col.Type = typeOf(c)
	for !c.Done() && !c.Is(",") && !c.Is(")") && !c.Is(";") {
		switch {
		case c.Take("ENCODE"):
			col.Encoding = c.Word()
		case c.Take("NOT", "NULL"):
			col.Nullable = false
		case c.Take("NULL"):
		case c.Take("IDENTITY"):
			c.Bracketed()
			col.Identity = catalog.IdentityAlways
		case c.Take("GENERATED", "BY", "DEFAULT", "AS", "IDENTITY"):
			c.Bracketed()
			col.Identity = catalog.IdentityByDefault
		case c.Take("DEFAULT"):
			col.Default = c.Until("ENCODE", "NOT NULL", "NULL", "DISTKEY", "SORTKEY", "PRIMARY KEY")
		case c.Take("DISTKEY"):
			t.Spread.Style, t.Spread.Column = "key", col.Name
		case c.Take("SORTKEY"):
			t.SortKey = &catalog.SortKey{Columns: []string{col.Name}}
		default:
			c.Need("PRIMARY", "KEY")
			t.PrimaryKey = &catalog.Key{Name: t.Name + "_pkey", Columns: []string{col.Name}}
			col.Nullable = false
		}
	}
	t.Columns = append(t.Columns, col)
	return col
}

func (s *client) dropTable(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	ref := c.Ref(s.Path[0])
	c.Take("CASCADE")
	c.End()
	if s.c.Catalog.Table(ref) == nil && quiet {
		return nil
	}
	delete(s.c.wear, ref)
	return s.DropTable(ctx, ref)
}

func (s *client) createView(ctx context.Context, c *grammar.Cursor) error {
	ref := c.Ref(s.Path[0])
	c.Need("AS")
	query := strings.TrimSuffix(c.Rest(), ";")
	return s.CreateView(ctx, ref, &catalog.View{Name: ref.Table, Definition: query}, query, nil)
}

func (s *client) comment(_ context.Context, c *grammar.Cursor) error {
	column := c.OneOf("TABLE", "COLUMN") == "COLUMN"
	parts := []string{c.Name()}
	for c.Take(".") {
		parts = append(parts, c.Name())
	}
	c.Need("IS")
	text := ""
	if !c.Take("NULL") {
		text = c.Literal()
	}
	c.End()
	of := parts
	if column {
		of = parts[:len(parts)-1]
	}
	ref := catalog.Ref{Schema: s.Path[0], Table: of[len(of)-1]}
	if len(of) == 2 {
		ref.Schema = of[0]
	}
	t, err := s.c.Table(ref)
	if err != nil || !column {
		if err == nil {
			t.Comment = text
		}
		return err
	}
	if err := standin.Columns(t, parts[len(parts)-1:]); err != nil {
		return err
	}
	t.Column(parts[len(parts)-1]).Comment = text
	return nil
}

// vacuum sorts and reclaims, for one table or all.
func (s *client) vacuum(_ context.Context, c *grammar.Cursor) error {
	if s.Inside() {
		return refuse("25001", "VACUUM cannot run inside a transaction block")
	}
	what := ""
	for _, w := range []string{"FULL", "SORT ONLY", "DELETE ONLY", "REINDEX", "RECLUSTER"} {
		if c.Take(strings.Fields(w)...) {
			what = w
		}
	}
	return s.each(c, func(w *wear) {
		if what != "DELETE ONLY" {
			w.unsorted = 0
		}
		if what != "SORT ONLY" {
			w.dead = 0
		}
	})
}

func (s *client) analyze(_ context.Context, c *grammar.Cursor) error {
	return s.each(c, func(w *wear) { w.changed = 0 })
}

func (s *client) each(c *grammar.Cursor, do func(*wear)) error {
	all := s.c.Catalog.Tables()
	if !c.Done() && !c.Is("TO") && !c.Is(";") {
		t, err := s.c.Table(c.Ref(s.Path[0]))
		if err != nil {
			return err
		}
		all = []*catalog.Table{t}
	}
	if c.Take("TO") {
		c.Number()
		c.Need("PERCENT")
	}
	c.End()
	for _, t := range all {
		w := s.c.wear[t.Ref()]
		do(&w)
		s.c.wear[t.Ref()] = w
	}
	return nil
}

func (s *client) alterTable(ctx context.Context, c *grammar.Cursor) error {
	ref := c.Ref(s.Path[0])
	t, err := s.c.Table(ref)
	if err != nil {
		return err
	}
	switch {
	case c.Take("RENAME", "TO"):
		name := c.Name()
		c.End()
		s.c.wear[catalog.Ref{Schema: ref.Schema, Table: name}] = s.c.wear[ref]
		delete(s.c.wear, ref)
		return s.RenameTable(ctx, ref, name)
	case c.Take("ADD", "CONSTRAINT"):
		add := s.constraint(ctx, c, ref, c.Name())
		c.End()
		return add()
	case c.Take("DROP", "CONSTRAINT"):
		name := c.Name()
		c.End()
		return s.DropConstraint(ctx, ref, name)
	case c.Take("ADD", "COLUMN"):
		col := s.column(c, &catalog.Table{Spread: &catalog.Spread{}})
		c.End()
		return s.AddColumn(ctx, ref, col, true)
	}
	for {
		if err := s.arrange(c, t); err != nil {
			return err
		}
		if !c.Take(",") {
			break
		}
	}
	c.End()
	return nil
}

// arrange alters how rows are spread, kept and compressed
// (https://docs.aws.amazon.com/redshift/latest/dg/r_ALTER_TABLE.html).
func (s *client) arrange(c *grammar.Cursor, t *catalog.Table) error {
	c.Need("ALTER")
	rewritten := func() { s.c.wear[t.Ref()] = wear{changed: s.c.wear[t.Ref()].changed} }
	switch {
	case c.Take("DISTSTYLE", "KEY", "DISTKEY"), c.Take("DISTKEY"):
		t.Spread = &catalog.Spread{Style: "key", Column: c.Name()}
		rewritten()
		return standin.Columns(t, []string{t.Spread.Column})
	case c.Take("DISTSTYLE"):
		t.Spread = &catalog.Spread{Style: strings.ToLower(c.OneOf("ALL", "EVEN", "AUTO"))}
		rewritten()
	case c.Take("SORTKEY", "NONE"), c.Take("SORTKEY", "AUTO"):
		t.SortKey = nil
	case c.Is("COMPOUND"), c.Is("SORTKEY"):
		c.Take("COMPOUND")
		c.Need("SORTKEY")
		t.SortKey = &catalog.SortKey{Columns: c.Names()}
		rewritten()
		return standin.Columns(t, t.SortKey.Columns)
	default:
		c.Need("COLUMN")
		name := c.Name()
		c.Need("ENCODE")
		encoding := c.Word()
		if err := standin.Columns(t, []string{name}); err != nil {
			return err
		}
		if slices.Contains([]string{"bytedict", "runlength", "text255", "text32k"}, encoding) {
			return refuse("0A000", "a column cannot be altered to encoding %s", encoding)
		}
		t.Column(name).Encoding = encoding
	}
	return nil
}
