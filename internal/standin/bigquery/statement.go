package bigquery

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// A production of the grammar
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language).
type production struct {
	words []string
	do    func(s *session, ctx context.Context, c *grammar.Cursor) error
}

var statements = []production{
	{[]string{"CREATE", "SCHEMA"}, (*session).createSchema},
	{[]string{"DROP", "SCHEMA"}, (*session).dropSchema},
	{[]string{"CREATE", "TABLE"}, (*session).createTable},
	{[]string{"DROP", "TABLE"}, (*session).dropTable},
	{[]string{"CREATE", "VIEW"}, (*session).createView},
	{[]string{"DROP", "VIEW"}, (*session).dropView},
	{[]string{"ALTER", "TABLE"}, (*session).alterTable},
	{[]string{"CREATE", "ROW", "ACCESS", "POLICY"}, (*session).createPolicy},
}

// execute carries out a statement that gives no rows.
func (s *session) execute(ctx context.Context, c *grammar.Cursor, sql string) error {
	for _, st := range statements {
		if !c.Take(st.words...) {
			continue
		}
		return s.Alter(ctx, func() error {
			var err error
			if failed := grammar.Read(func() { err = st.do(s, ctx, c) }); failed != nil {
				return failed
			}
			return err
		})
	}
	switch {
	case c.Take("ASSERT"):
		return s.assert(ctx, c)
	case c.Is("INSERT", "INTO"), c.Is("DELETE", "FROM"), c.Is("UPDATE"):
		if !c.Is("INSERT") && !c.Ahead("WHERE") {
			return refuse("%s must have a WHERE clause", strings.ToUpper(c.Peek(0).Text))
		}
		if c.Is("INSERT") {
			c.Take("INSERT", "INTO")
			var ref catalog.Ref
			if err := grammar.Read(func() { ref = s.ref(c) }); err != nil {
				return err
			}
			if _, err := s.p.Table(ref); err != nil {
				return err
			}
		}
		if _, err := s.Write(ctx, sql); err != nil {
			return err
		}
		if c.Ahead("SELECT") {
			return s.filtered(sql)
		}
		return nil
	}
	words := strings.Fields(sql)
	return beyond("this statement: " + strings.Join(words[:min(4, len(words))], " "))
}

// ref needs the name of a table with its dataset, and perhaps its project.
func (s *session) ref(c *grammar.Cursor) catalog.Ref {
	var names []string
	for {
		names = append(names, strings.Split(c.Name(), ".")...)
		if !c.Take(".") {
			break
		}
	}
	if len(names) == 3 && names[0] == s.p.name {
		names = names[1:]
	}
	if len(names) != 2 {
		grammar.Fail(refuse("Table %q must be qualified with a dataset (e.g. dataset.table)", strings.Join(names, ".")))
	}
	return catalog.Ref{Schema: names[0], Table: names[1]}
}

// assert fails where a condition is not true
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/debugging-statements#assert).
func (s *session) assert(ctx context.Context, c *grammar.Cursor) error {
	rest := c.Rest()
	condition, says, _ := strings.Cut(rest, " AS '")
	a, err := s.ask(ctx, "SELECT "+condition)
	if err != nil {
		return err
	}
	if len(a.Rows) != 1 || a.Rows[0][0] != int64(1) {
		return refuse("Assertion failed: %s", strings.TrimSuffix(strings.TrimSuffix(says, ";"), "'"))
	}
	return nil
}

func (s *session) createSchema(_ context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "NOT", "EXISTS")
	name := c.Name()
	schema := &catalog.Schema{Name: strings.TrimPrefix(name, s.p.name+".")}
	if c.Take("OPTIONS") {
		for _, o := range optionsOf(c) {
			switch o.name {
			case "description":
				schema.Comment = o.text()
			case "location":
				if where := o.text(); !strings.EqualFold(where, s.p.location) {
					return beyond("the location " + where)
				}
			}
		}
	}
	c.End()
	if s.p.Catalog.Schema(schema.Name) != nil {
		if quiet {
			return nil
		}
		return &fault{409, "duplicate", fmt.Sprintf("Already Exists: Dataset %s:%s", s.p.name, schema.Name)}
	}
	s.p.Catalog.Schemas = append(s.p.Catalog.Schemas, schema)
	return nil
}

func (s *session) dropSchema(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	name := c.Name()
	cascade := c.Take("CASCADE")
	c.End()
	schema := s.p.Catalog.Schema(name)
	switch {
	case schema == nil && quiet:
		return nil
	case schema == nil:
		return &fault{404, "notFound", fmt.Sprintf("Not found: Dataset %s:%s", s.p.name, name)}
	case !cascade && schema.Size() > 0:
		return &fault{400, "resourceInUse", fmt.Sprintf("Dataset %s:%s is still in use", s.p.name, name)}
	}
	for _, v := range slices.Clone(schema.Views) {
		if err := s.DropView(ctx, catalog.Ref{Schema: name, Table: v.Name}); err != nil {
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
	s.p.Catalog.Schemas = slices.DeleteFunc(s.p.Catalog.Schemas, func(o *catalog.Schema) bool { return o == schema })
	return nil
}

func (s *session) column(c *grammar.Cursor) *catalog.Column {
	col := &catalog.Column{Name: c.Name(), Nullable: true}
	col.Type = nodeOf(c).typ()
	for !c.Done() && !c.Is(",") && !c.Is(")") && !c.Is(";") {
		switch {
		case c.Take("NOT", "NULL"):
			if col.Nullable = false; col.Type.Family == catalog.Array { // a list is empty, never null
				grammar.Fail(refuse("NOT NULL cannot be specified on column %s of type ARRAY", col.Name))
			}
		case c.Take("DEFAULT"):
			col.Default = c.Until("NOT NULL", "OPTIONS")
		case c.Take("COLLATE"):
			col.Type.Collation = unescaped(c.Peek(0).Text)
			c.Skip()
		default:
			c.Need("OPTIONS")
			for _, o := range optionsOf(c) {
				if o.name != "description" {
					grammar.Fail(refuse("Unknown option: %s", o.name))
				}
				col.Comment = o.text()
			}
		}
	}
	return col
}

func (s *session) createTable(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "NOT", "EXISTS")
	ref := s.ref(c)
	t := &catalog.Table{Schema: ref.Schema, Name: ref.Table, Kind: catalog.Ordinary}
	var keys []func() error
	c.List(func() {
		if c.Is("PRIMARY", "KEY") || c.Is("CONSTRAINT") || c.Is("FOREIGN", "KEY") {
			keys = append(keys, s.constraint(c, ref, len(keys)+1))
			return
		}
		t.Columns = append(t.Columns, s.column(c))
	})
	if c.Take("PARTITION", "BY") {
		definition := strings.TrimSpace(c.Until("CLUSTER BY", "OPTIONS", "AS"))
		column, err := partitionColumn(s.p, t, definition)
		if err != nil {
			return err
		}
		t.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: definition}
	}
	if c.Take("CLUSTER", "BY") {
		t.SortKey = &catalog.SortKey{}
		for {
			t.SortKey.Columns = append(t.SortKey.Columns, c.Name())
			if !c.Take(",") {
				break
			}
		}
		if err := clusterable(t); err != nil {
			return err
		}
	}
	if c.Take("OPTIONS") {
		if err := set(t, optionsOf(c)); err != nil {
			return err
		}
	}
	c.End()
	if s.p.Catalog.Table(ref) != nil && quiet {
		return nil
	}
	if s.p.Catalog.Schema(ref.Schema) == nil {
		return &fault{404, "notFound", fmt.Sprintf("Not found: Dataset %s:%s was not found in location %s", s.p.name, ref.Schema, s.p.location)}
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

// clusterable: https://cloud.google.com/bigquery/docs/clustered-tables#limitations.
func clusterable(t *catalog.Table) error {
	if len(t.SortKey.Columns) > 4 {
		return refuse("CLUSTER BY allows 4 columns at most")
	}
	if err := standin.Columns(t, t.SortKey.Columns); err != nil {
		return err
	}
	for _, name := range t.SortKey.Columns {
		switch c := t.Column(name); c.Type.Family {
		case catalog.Float, catalog.Array, catalog.JSON, catalog.Other, catalog.Binary, catalog.Time, catalog.Interval:
			return refuse("CLUSTER BY expression must be groupable, but type is %s", c.Type.Native)
		}
	}
	return nil
}

// constraint reads one, and returns what adds it. Nothing is enforced, and what says otherwise is
// refused (https://cloud.google.com/bigquery/docs/primary-foreign-keys).
func (s *session) constraint(c *grammar.Cursor, on catalog.Ref, n int) func() error {
	name := ""
	if c.Take("CONSTRAINT") {
		name = c.Name()
	}
	kind := c.OneOf("PRIMARY KEY", "FOREIGN KEY")
	columns := c.Names()
	if kind == "PRIMARY KEY" {
		c.Need("NOT", "ENFORCED")
		return func() error {
			t, err := s.p.Table(on)
			if err != nil {
				return err
			}
			if len(columns) > 16 {
				return refuse("A primary key has 16 columns at most")
			}
			if err := keyed(t, columns); err != nil {
				return err
			}
			if t.PrimaryKey != nil {
				return &standin.Fault{Kind: standin.HasKey, Table: on}
			}
			t.PrimaryKey = &catalog.Key{Name: "pk$", Columns: columns}
			return nil
		}
	}
	c.Need("REFERENCES")
	f := &catalog.ForeignKey{Columns: columns, Target: s.ref(c), TargetColumns: c.Names()}
	c.Need("NOT", "ENFORCED")
	return func() error {
		t, err := s.p.Table(on)
		if err != nil {
			return err
		}
		to, err := s.p.Table(f.Target)
		if err != nil {
			return err
		}
		switch {
		case f.Target.Schema != on.Schema:
			return refuse("Foreign keys and the tables that they refer to must be in the same dataset")
		case to.PrimaryKey == nil || !catalog.SameColumns(to.PrimaryKey.Columns, f.TargetColumns):
			return refuse("Foreign key must reference the primary key of table %s", to.Name)
		}
		if err := keyed(t, f.Columns); err != nil {
			return err
		}
		for i, name := range f.Columns {
			a, _, _ := strings.Cut(t.Column(name).Type.Native, "(")
			b, _, _ := strings.Cut(to.Column(f.TargetColumns[i]).Type.Native, "(")
			if a != b {
				return refuse("Foreign key column %s has type %s, and the column that it references has type %s", name, a, b)
			}
		}
		if f.Name = name; name == "" {
			for i := n; ; i++ {
				f.Name = fmt.Sprintf("fk$%d", i)
				if !slices.ContainsFunc(t.ForeignKeys, func(o *catalog.ForeignKey) bool { return o.Name == f.Name }) {
					break
				}
			}
		}
		if slices.ContainsFunc(t.ForeignKeys, func(o *catalog.ForeignKey) bool { return o.Name == f.Name }) {
			return &fault{409, "duplicate", "Already Exists: Constraint " + f.Name}
		}
		t.ForeignKeys = append(t.ForeignKeys, f)
		return nil
	}
}

func keyed(t *catalog.Table, columns []string) error {
	if err := standin.Columns(t, columns); err != nil {
		return err
	}
	for _, name := range columns {
		switch c := t.Column(name); c.Type.Family {
		case catalog.Array, catalog.JSON, catalog.Other:
			return refuse("A key cannot be on column %s of type %s", name, c.Type.Native)
		}
	}
	return nil
}

func (s *session) dropTable(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	ref := s.ref(c)
	c.End()
	if quiet && s.p.Catalog.Table(ref) == nil {
		return nil
	}
	delete(s.p.policies, ref)
	return s.DropTable(ctx, ref)
}

func (s *session) createView(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	v := &catalog.View{Name: ref.Table}
	if c.Take("OPTIONS") {
		for _, o := range optionsOf(c) {
			if o.name == "description" {
				v.Comment = o.text()
			}
		}
	}
	c.Need("AS")
	query := strings.TrimSuffix(strings.TrimSpace(c.Rest()), ";")
	v.Definition = query
	return s.CreateView(ctx, ref, v, query, nil)
}

func (s *session) dropView(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	c.End()
	return s.DropView(ctx, ref)
}

// createPolicy keeps rows of a table from those whom it does not name. The simulated service lists it,
// and shows all rows to everybody.
func (s *session) createPolicy(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("ON")
	ref := s.ref(c)
	c.Need("GRANT", "TO")
	c.Bracketed()
	c.Need("FILTER", "USING")
	c.Bracketed()
	c.End()
	if _, err := s.p.Table(ref); err != nil {
		return err
	}
	s.p.policies[ref] = append(slices.Clone(s.p.policies[ref]), name)
	return nil
}
