package standin

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// The methods below alter the structure and what holds the rows, together. They are called
// within [Session.Alter].

// Schema returns the schema, which is made where it is not there.
func (m *Machine) Schema(name string) *catalog.Schema {
	s := m.Catalog.Schema(name)
	if s == nil {
		s = &catalog.Schema{Name: name}
		m.Catalog.Schemas = append(m.Catalog.Schemas, s)
	}
	return s
}

// Table returns the table.
func (m *Machine) Table(ref catalog.Ref) (*catalog.Table, error) {
	if t := m.Catalog.Table(ref); t != nil {
		return t, nil
	}
	return nil, &Fault{Kind: Missing, Name: ref.Table, Table: ref}
}

// Columns reports that one of the columns is not there.
func Columns(t *catalog.Table, names []string) error {
	for _, n := range names {
		if t.Column(n) == nil {
			return &Fault{Kind: NoColumn, Name: n, Table: t.Ref()}
		}
	}
	return nil
}

// CreateTable makes an empty table.
func (s *Session) CreateTable(ctx context.Context, t *catalog.Table) error {
	if s.m.relation(t.Ref()) {
		return &Fault{Kind: Exists, Name: t.Name, Table: t.Ref()}
	}
	if s.m.Catalog.Schema(t.Schema) == nil {
		return &Fault{Kind: Missing, Name: t.Schema, Table: t.Ref()}
	}
	schema := s.m.Catalog.Schema(t.Schema)
	schema.Tables = append(schema.Tables, t)
	slices.SortFunc(schema.Tables, func(a, b *catalog.Table) int { return strings.Compare(a.Name, b.Name) })
	return s.lay(ctx, t, nil)
}

// DropTable takes a table away, to which no other refers.
func (s *Session) DropTable(ctx context.Context, ref catalog.Ref) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	for _, o := range s.m.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target == ref && o != t {
				return &Fault{Kind: LeanedOn, Name: ref.Table, Table: ref, By: f.Name + " of " + o.Ref().String()}
			}
		}
	}
	tied := s.m.Refers(ref)
	schema := s.m.Catalog.Schema(ref.Schema)
	schema.Tables = slices.DeleteFunc(schema.Tables, func(o *catalog.Table) bool { return o == t })
	if err := s.m.Do(ctx, "DROP TABLE "+stored(ref)); err != nil {
		return err
	}
	return s.guardAll(ctx, tied)
}

func (s *Session) guardAll(ctx context.Context, tables []*catalog.Table) error {
	for _, t := range tables {
		if s.m.Catalog.Table(t.Ref()) != t {
			continue
		}
		if err := s.Guard(ctx, t); err != nil {
			return err
		}
	}
	return nil
}

// RenameTable gives a table another name in its schema.
func (s *Session) RenameTable(ctx context.Context, ref catalog.Ref, name string) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	to := catalog.Ref{Schema: ref.Schema, Table: name}
	if s.m.relation(to) {
		return &Fault{Kind: Exists, Name: name, Table: to}
	}
	if err := s.m.unguard(ctx, ref); err != nil {
		return err
	}
	tied := s.m.Refers(ref)
	for _, o := range tied { // their triggers name it
		if err := s.m.unguard(ctx, o.Ref()); err != nil {
			return err
		}
	}
	if err := s.m.Do(ctx, "ALTER TABLE "+stored(ref)+" RENAME TO "+stored(to)); err != nil {
		return err
	}
	t.Name = name
	for _, o := range s.m.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target == ref {
				f.Target = to
			}
		}
	}
	s.m.Catalog.Sort()
	return s.guardAll(ctx, append(tied, t))
}

// Reshape lets alter change the columns of a table, and carries the rows over: were are the
// expressions that give a column its values, where that is not the column itself.
func (s *Session) Reshape(ctx context.Context, ref catalog.Ref, were map[string]string, alter func(t *catalog.Table) error) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	from := same(t)
	for name, was := range were {
		from[name] = was
	}
	if err := alter(t); err != nil {
		return err
	}
	return s.lay(ctx, t, from)
}

// AddColumn adds a column behind the others, with its default in the rows that are there where
// filled is asked for, or it takes no null.
func (s *Session) AddColumn(ctx context.Context, ref catalog.Ref, c *catalog.Column, filled bool) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	if t.Column(c.Name) != nil {
		return &Fault{Kind: Exists, Name: c.Name, Table: ref}
	}
	rows, err := s.m.Count(ctx, "SELECT count(*) FROM "+stored(ref))
	if err != nil {
		return err
	}
	were := map[string]string{}
	switch {
	case c.Identity != catalog.NoIdentity:
		were[c.Name] = fmt.Sprintf("nexdal_number(%d, %s, %s, NULL)", s.m.id, literal(ref.Schema), literal(ref.Table))
	case c.Default != "" && (filled || !c.Nullable):
		were[c.Name] = "(" + s.readable(c.Default) + ")"
	case !c.Nullable && c.Generated == "" && rows > 0 && s.m.Keeps:
		return &Fault{Kind: NotEmpty, Name: c.Name, Table: ref}
	}
	return s.Reshape(ctx, ref, were, func(t *catalog.Table) error {
		t.Columns = append(t.Columns, c)
		return nil
	})
}

// DropColumn takes a column away on which nothing leans.
func (s *Session) DropColumn(ctx context.Context, ref catalog.Ref, name string) error {
	return s.Reshape(ctx, ref, nil, func(t *catalog.Table) error {
		if err := Columns(t, []string{name}); err != nil {
			return err
		}
		if by := s.LeansOn(t, name); by != "" {
			return &Fault{Kind: LeanedOn, Name: name, Table: ref, By: by}
		}
		t.Columns = slices.DeleteFunc(t.Columns, func(c *catalog.Column) bool { return c.Name == name })
		return nil
	})
}

// LeansOn names what keeps a column from being altered: a key, an index, a foreign key either
// way, a check or a computed column; or "".
func (s *Session) LeansOn(t *catalog.Table, name string) string {
	for _, k := range t.Keys() {
		if slices.Contains(k.Columns, name) {
			return k.Name
		}
	}
	for _, x := range t.Indexes {
		if slices.Contains(x.Columns(), name) || slices.Contains(x.Include, name) || x.Predicate != "" && s.mentions(x.Predicate, name) {
			return x.Name
		}
	}
	for _, f := range t.ForeignKeys {
		if slices.Contains(f.Columns, name) {
			return f.Name
		}
	}
	for _, o := range s.m.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target == t.Ref() && slices.Contains(f.TargetColumns, name) {
				return f.Name
			}
		}
	}
	for _, k := range t.Checks {
		if s.mentions(k.Expression, name) {
			return k.Name
		}
	}
	for _, c := range t.Columns {
		if c.Generated != "" && c.Name != name && s.mentions(c.Generated, name) {
			return c.Name
		}
	}
	return ""
}

func (s *Session) mentions(expression, column string) bool {
	return s.m.kind.Lexis().Mentions(expression, column)
}

// named reports whether a constraint, or a relation, of the schema is called so: they share
// their names.
func (m *Machine) named(schema, name string) bool {
	if m.relation(catalog.Ref{Schema: schema, Table: name}) {
		return true
	}
	for _, t := range m.Catalog.Tables() {
		if t.Schema == schema && constraint(t, name) {
			return true
		}
	}
	return false
}

func constraint(t *catalog.Table, name string) bool {
	return slices.ContainsFunc(t.Keys(), func(k *catalog.Key) bool { return k.Name == name }) ||
		slices.ContainsFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Name == name }) ||
		slices.ContainsFunc(t.Checks, func(k *catalog.Check) bool { return k.Name == name })
}

// AddKey adds a primary key or a unique constraint, with the index behind it; nil where the
// system has none.
func (s *Session) AddKey(ctx context.Context, ref catalog.Ref, k *catalog.Key, primary bool, x *catalog.Index) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	if err := Columns(t, k.Columns); err != nil {
		return err
	}
	switch {
	case s.m.named(ref.Schema, k.Name):
		return &Fault{Kind: Exists, Name: k.Name, Table: ref}
	case primary && t.PrimaryKey != nil:
		return &Fault{Kind: HasKey, Name: k.Name, Table: ref}
	case primary && s.m.Keeps && !t.NotNull(k.Columns):
		for _, c := range k.Columns {
			if t.Column(c).Nullable {
				return &Fault{Kind: Nulls, Name: c, Table: ref}
			}
		}
	}
	if primary {
		t.PrimaryKey = k
	} else {
		t.UniqueKeys = append(t.UniqueKeys, k)
	}
	if x == nil {
		return nil
	}
	return s.AddIndex(ctx, ref, x)
}

// AddIndex adds an index.
func (s *Session) AddIndex(ctx context.Context, ref catalog.Ref, x *catalog.Index) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	if t.Index(x.Name) != nil {
		return &Fault{Kind: Exists, Name: x.Name, Table: ref}
	}
	if err := Columns(t, append(x.NamedColumns(), x.Include...)); err != nil {
		return err
	}
	t.Indexes = append(t.Indexes, x)
	err = s.Guard(ctx, t)
	if err != nil && x.Unique && strings.Contains(err.Error(), "UNIQUE constraint failed") {
		return &Fault{Kind: Repeats, Name: x.Name, Table: ref}
	}
	return err
}

// AddForeignKey adds a reference, whose rows are looked at where checked is asked for.
func (s *Session) AddForeignKey(ctx context.Context, ref catalog.Ref, f *catalog.ForeignKey, checked bool) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	to, err := s.m.Table(f.Target)
	if err != nil {
		return err
	}
	if err := Columns(t, f.Columns); err != nil {
		return err
	}
	if err := Columns(to, f.TargetColumns); err != nil {
		return err
	}
	if s.m.named(ref.Schema, f.Name) {
		return &Fault{Kind: Exists, Name: f.Name, Table: ref}
	}
	if s.m.Keeps {
		if _, ok := to.KeyOn(f.TargetColumns); !ok {
			return &Fault{Kind: NoUniqueKey, Name: f.Name, Table: f.Target}
		}
	}
	if checked {
		if err := s.CheckForeignKey(ctx, t, f); err != nil {
			return err
		}
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
	return s.guardAll(ctx, []*catalog.Table{t, to})
}

// CheckForeignKey looks at the rows.
func (s *Session) CheckForeignKey(ctx context.Context, t *catalog.Table, f *catalog.ForeignKey) error {
	if !s.m.Keeps {
		return nil
	}
	var filled []string
	for _, c := range f.Columns {
		filled = append(filled, "c."+Quote(c)+" IS NOT NULL")
	}
	n, err := s.m.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s c WHERE %s AND NOT EXISTS (SELECT 1 FROM %s p WHERE %s)", stored(t.Ref()), strings.Join(filled, " AND "), stored(f.Target), pairs(f.TargetColumns, f.Columns, "p.", "c.")))
	if err == nil && n > 0 {
		err = &Fault{Kind: Orphans, Name: f.Name, Table: t.Ref(), By: f.Target.String()}
	}
	return err
}

// AddCheck adds a condition, for which the rows are looked at where checked is asked for.
func (s *Session) AddCheck(ctx context.Context, ref catalog.Ref, k *catalog.Check, checked bool) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	if s.m.named(ref.Schema, k.Name) {
		return &Fault{Kind: Exists, Name: k.Name, Table: ref}
	}
	if err := s.understood(ctx, t, k.Expression); err != nil {
		return err
	}
	if checked {
		if err := s.CheckCheck(ctx, t, k); err != nil {
			return err
		}
	}
	t.Checks = append(t.Checks, k)
	return s.Guard(ctx, t)
}

// understood has SQLite read a condition on the table's rows.
func (s *Session) understood(ctx context.Context, t *catalog.Table, condition string) error {
	_, err := s.m.Count(ctx, fmt.Sprintf("SELECT count(*) FROM (SELECT 1 FROM %s WHERE (%s) LIMIT 1)", stored(t.Ref()), s.readable(condition)))
	return err
}

// CheckCheck looks at the rows.
func (s *Session) CheckCheck(ctx context.Context, t *catalog.Table, k *catalog.Check) error {
	n, err := s.m.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE NOT (%s)", stored(t.Ref()), s.readable(k.Expression)))
	if err == nil && n > 0 {
		err = &Fault{Kind: Breaks, Name: k.Name, Table: t.Ref()}
	}
	return err
}

// DropConstraint takes away a key, on which no foreign key leans, a foreign key or a check.
func (s *Session) DropConstraint(ctx context.Context, ref catalog.Ref, name string) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	if !constraint(t, name) {
		return &Fault{Kind: Missing, Name: name, Table: ref}
	}
	for _, k := range slices.Clone(t.Keys()) {
		if k.Name != name {
			continue
		}
		if s.m.Keeps {
			if by := s.referrer(t, k.Columns, k.Index); by != "" {
				return &Fault{Kind: LeanedOn, Name: name, Table: ref, By: by}
			}
		}
		t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool { return x.Name == k.Index })
		if k == t.PrimaryKey {
			t.PrimaryKey = nil
		}
		t.UniqueKeys = slices.DeleteFunc(t.UniqueKeys, func(o *catalog.Key) bool { return o == k })
	}
	tied := append(s.m.Refers(ref), t)
	t.ForeignKeys = slices.DeleteFunc(t.ForeignKeys, func(f *catalog.ForeignKey) bool { return f.Name == name })
	t.Checks = slices.DeleteFunc(t.Checks, func(k *catalog.Check) bool { return k.Name == name })
	return s.guardAll(ctx, tied)
}

// referrer names a foreign key that leans on the index, or on the columns where nothing else
// keeps them unique; or "".
func (s *Session) referrer(t *catalog.Table, columns []string, index string) string {
	for _, o := range s.m.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target != t.Ref() || f.TargetIndex != "" && f.TargetIndex != index {
				continue
			}
			if f.TargetIndex == index || catalog.SameColumns(f.TargetColumns, columns) {
				return f.Name
			}
		}
	}
	return ""
}

// DropIndex takes an index away that a person made.
func (s *Session) DropIndex(ctx context.Context, ref catalog.Ref, name string) error {
	t, err := s.m.Table(ref)
	if err != nil {
		return err
	}
	x := t.Index(name)
	if x == nil {
		return &Fault{Kind: Missing, Name: name, Table: ref}
	}
	if by := s.referrer(t, x.Columns(), x.Name); by != "" && x.Unique {
		return &Fault{Kind: LeanedOn, Name: name, Table: ref, By: by}
	}
	t.Indexes = slices.DeleteFunc(t.Indexes, func(o *catalog.Index) bool { return o == x })
	return s.Guard(ctx, t)
}

// CreateView makes a view of a query, which has to be one that can be asked.
func (s *Session) CreateView(ctx context.Context, ref catalog.Ref, v *catalog.View, query string, columns []string) error {
	if s.m.relation(ref) {
		return &Fault{Kind: Exists, Name: ref.Table, Table: ref}
	}
	list := ""
	if len(columns) > 0 {
		list = " (" + quotes(columns) + ")"
	}
	s.systems = false
	if err := s.m.Do(ctx, fmt.Sprintf("CREATE VIEW %s%s AS %s", stored(ref), list, s.readable(query))); err != nil {
		return err
	}
	if err := s.m.Do(ctx, "SELECT 1 FROM "+stored(ref)+" LIMIT 0"); err != nil {
		return err
	}
	schema := s.m.Catalog.Schema(ref.Schema)
	if schema == nil {
		return &Fault{Kind: Missing, Name: ref.Schema, Table: ref}
	}
	schema.Views = append(schema.Views, v)
	return nil
}

// DropView takes a view away.
func (s *Session) DropView(ctx context.Context, ref catalog.Ref) error {
	v := s.m.View(ref)
	if v == nil {
		return &Fault{Kind: Missing, Name: ref.Table, Table: ref}
	}
	schema := s.m.Catalog.Schema(ref.Schema)
	schema.Views = slices.DeleteFunc(schema.Views, func(o *catalog.View) bool { return o == v })
	return s.m.Do(ctx, "DROP VIEW "+stored(ref))
}
