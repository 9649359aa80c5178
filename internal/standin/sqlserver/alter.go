package sqlserver

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// alterTable: https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-table-transact-sql.
func (s *client) alterTable(ctx context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	t, err := s.db.Table(ref)
	if err != nil {
		return err
	}
	m := &making{s: s, t: &catalog.Table{Schema: t.Schema, Name: t.Name}, check: true}
	with := ""
	if c.Take("WITH") {
		with = c.OneOf("CHECK", "NOCHECK")
		m.check = with == "CHECK"
	}
	switch {
	case c.Take("ADD"):
		return s.add(ctx, c, m)
	case c.Is("CHECK"), c.Is("NOCHECK"):
		on := c.OneOf("CHECK", "NOCHECK") == "CHECK"
		c.Need("CONSTRAINT")
		if c.Take("ALL") {
			return s.switched(ctx, t, "", on, with == "CHECK")
		}
		return s.switched(ctx, t, c.Name(), on, with == "CHECK")
	case with != "":
		c.Need("ADD")
	case c.Take("DROP"):
		return s.drops(ctx, c, t)
	case c.Take("ALTER", "COLUMN"):
		return s.alterColumn(ctx, c, t)
	case c.Take("ENABLE", "CHANGE_TRACKING"):
		if t.PrimaryKey == nil {
			return refuse(4997, "Cannot enable change tracking on table '%s'. Change tracking requires a primary key on the table.", t.Name)
		}
		s.db.more.tracked[t.Ref()] = true
		return nil
	case c.Is("ENABLE", "TRIGGER"), c.Is("DISABLE", "TRIGGER"):
		how := map[string]string{"DISABLE": "disabled"}[c.OneOf("ENABLE", "DISABLE")]
		c.Need("TRIGGER")
		return s.switchTrigger(t, c.Name(), how)
	case c.Take("REBUILD"):
		if c.Take("WITH") {
			t.Storage = s.options(c)
		}
		return nil
	}
	c.Need("ADD")
	return nil
}

// add reads columns and constraints.
func (s *client) add(ctx context.Context, c *grammar.Cursor, m *making) error {
	for {
		if !m.constraint(c) {
			col := m.column(c)
			filled := c.Take("WITH", "VALUES")
			ref := m.t.Ref()
			later := m.later
			m.later = append([]func(context.Context) error{func(ctx context.Context) error {
				t := s.db.Catalog.Table(ref)
				if col.Identity != catalog.NoIdentity {
					if slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool { return o.Identity != catalog.NoIdentity }) {
						return refuse(2744, "Multiple identity columns specified for table '%s'. Only one identity column per table is allowed.", t.Name)
					}
					with := *t
					with.Columns = append(slices.Clone(t.Columns), col)
					seed, _ := counts(&with)
					t.Stats.Counter = &seed
				}
				if t.Column(col.Name) != nil {
					return refuse(2705, "Column names in each table must be unique. Column name '%s' in table '%s' is specified more than once.", col.Name, t.Name)
				}
				return s.AddColumn(ctx, ref, col, filled)
			}}, later...)
		}
		if !c.Take(",") {
			break
		}
	}
	return m.finish(ctx)
}

// switched lets checks and foreign keys be kept from now on, or not; with a look at the rows they
// are trusted.
func (s *client) switched(ctx context.Context, t *catalog.Table, name string, on, look bool) error {
	found := name == ""
	for _, f := range t.ForeignKeys {
		if name != "" && f.Name != name {
			continue
		}
		found = true
		switch {
		case on && look:
			if err := s.CheckForeignKey(ctx, t, f); err != nil {
				return err
			}
			f.Disabled, f.NotValidated = false, false
		case on:
			f.Disabled = false
		default:
			f.Disabled, f.NotValidated = true, true
		}
		if err := s.Guard(ctx, s.db.Catalog.Table(f.Target)); err != nil {
			return err
		}
	}
	for _, k := range t.Checks {
		if name != "" && k.Name != name {
			continue
		}
		found = true
		switch {
		case on && look:
			if err := s.CheckCheck(ctx, t, k); err != nil {
				return err
			}
			k.NotEnforced, k.NotValidated = false, false
		case on:
			k.NotEnforced = false
		default:
			k.NotEnforced, k.NotValidated = true, true
		}
	}
	if !found {
		return refuse(4917, "Constraint '%s' does not exist.", name)
	}
	return s.Guard(ctx, t)
}

func (s *client) drops(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	if c.Take("COLUMN") {
		quiet := c.Take("IF", "EXISTS")
		for {
			name := c.Name()
			col := t.Column(name)
			switch {
			case col == nil && quiet:
				continue
			case col == nil:
				return refuse(4924, "ALTER TABLE DROP COLUMN failed because column '%s' does not exist in table '%s'.", name, t.Name)
			}
			if by := s.leans(t, col); by != "" {
				return refuse(5074, "The object '%s' is dependent on column '%s'.", by, name)
			}
			if err := s.DropColumn(ctx, t.Ref(), name); err != nil {
				return err
			}
			if !c.Take(",") {
				return nil
			}
		}
	}
	c.Take("CONSTRAINT")
	quiet := c.Take("IF", "EXISTS")
	for {
		name := c.Name()
		if err := s.dropConstraint(ctx, t, name, quiet); err != nil {
			return err
		}
		if c.Take("WITH") {
			s.options(c)
		}
		if !c.Take(",") {
			return nil
		}
		c.Take("CONSTRAINT")
	}
}

func (s *client) dropConstraint(ctx context.Context, t *catalog.Table, name string, quiet bool) error {
	for _, col := range t.Columns {
		if col.DefaultName == name {
			return s.setDefault(ctx, t.Ref(), col.Name, "", "")
		}
	}
	if err := rests(t, name); err != nil {
		return err
	}
	err := s.DropConstraint(ctx, t.Ref(), name)
	if f, ok := err.(*standin.Fault); ok {
		switch f.Kind {
		case standin.Missing:
			if quiet {
				return nil
			}
			return refuse(3728, "'%s' is not a constraint.", name)
		case standin.LeanedOn:
			return refuse(3725, "The constraint '%s' is being referenced by table, foreign key constraint '%s'.", name, f.By)
		}
	}
	return err
}

func (s *client) setDefault(ctx context.Context, ref catalog.Ref, column, name, value string) error {
	return s.Reshape(ctx, ref, nil, func(t *catalog.Table) error {
		if err := standin.Columns(t, []string{column}); err != nil {
			return refuse(1752, "Column '%s' in table '%s' is invalid for creating a default constraint.", column, t.Name)
		}
		c := t.Column(column)
		if value != "" && c.Default != "" {
			return refuse(1781, "Column already has a DEFAULT bound to it.")
		}
		c.DefaultName, c.Default = name, value
		return nil
	})
}

// leans names what bars an alteration of a column.
func (s *client) leans(t *catalog.Table, col *catalog.Column) string {
	if col.DefaultName != "" {
		return col.DefaultName
	}
	if by := s.LeansOn(t, col.Name); by != "" {
		return by
	}
	for name, columns := range s.db.more.statistics[t.Ref()] {
		if slices.Contains(columns, col.Name) {
			return name
		}
	}
	return s.boundTo(t.Ref(), col.Name)
}

// boundTo names a view or routine that is bound to the table's schema and names the column.
func (s *client) boundTo(ref catalog.Ref, column string) string {
	for _, schema := range s.db.Catalog.Schemas {
		for _, v := range schema.Views {
			if slices.Contains(v.Options, "schemabinding") && s.names(v.Definition, ref) && (column == "" || s.db.Lexis().Mentions(v.Definition, column)) {
				return v.Name
			}
		}
	}
	return ""
}

// names reports whether a text names the table behind its schema's name.
func (s *client) names(text string, ref catalog.Ref) bool {
	c := grammar.New(s.db.Lexis(), text, func(n string) string { return n })
	for !c.Done() {
		if name := c.Peek(0).Name(); name == ref.Schema {
			c.Skip()
			if c.Take(".") && c.Peek(0).Name() == ref.Table {
				return true
			}
			continue
		}
		c.Skip()
	}
	return false
}

// alterColumn gives a column another type, and says anew whether it takes nulls
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-table-transact-sql#alter-column).
func (s *client) alterColumn(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	name := c.Name()
	col := t.Column(name)
	if col == nil {
		return refuse(4924, "ALTER TABLE ALTER COLUMN failed because column '%s' does not exist in table '%s'.", name, t.Name)
	}
	to := s.readType(c)
	nullable := true
	for !c.Done() && !c.Is(";") {
		switch {
		case c.Take("COLLATE"):
			if n := c.Name(); n != collation {
				to.Collation = n
			}
		case c.Take("NOT", "NULL"):
			nullable = false
		default:
			c.Need("NULL")
		}
	}
	if by := s.leans(t, col); by != "" {
		return refuse(5074, "The object '%s' is dependent on column '%s'. ALTER TABLE ALTER COLUMN %[2]s failed because one or more objects access this column.", by, name)
	}
	if col.Generated != "" {
		return refuse(4928, "Cannot alter column '%s' because it is 'COMPUTED'.", name)
	}
	if t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, name) {
		return refuse(4926, "ALTER TABLE ALTER COLUMN %s failed: it is the partitioning column.", name)
	}
	place, q := s.db.Stored(t.Ref()), standin.Quote(name)
	ask := func(condition string) (bool, error) {
		n, err := s.db.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s", place, condition))
		return n > 0, err
	}
	if !nullable && col.Nullable {
		if some, err := ask(q + " IS NULL"); err != nil || some {
			if err == nil {
				err = refuse(515, "Cannot insert the value NULL into column '%s', table '%s'; column does not allow nulls. UPDATE fails.", name, t.Ref())
			}
			return err
		}
	}
	value := fmt.Sprintf("nexdal_convert(0, %s, %s, 0)", quoted(to.Native), q)
	if to.Underlying != "" {
		value = q
	}
	if condition := standin.Long(to, "CAST("+q+" AS TEXT)"); condition != "" && to.Family == catalog.Text {
		if some, err := ask(condition); err != nil || some {
			if err == nil {
				err = &standin.Fault{Kind: standin.TooLong, Name: name, Table: t.Ref()}
			}
			return err
		}
	}
	return s.Reshape(ctx, t.Ref(), map[string]string{name: value}, func(t *catalog.Table) error {
		c := t.Column(name)
		c.Type, c.Nullable = to, nullable
		return nil
	})
}

func quoted(text string) string { return "'" + strings.ReplaceAll(text, "'", "''") + "'" }
