package oracle

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// alterTable: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ALTER-TABLE.html.
func (s *Session) alterTable(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	t, err := s.d.Table(ref)
	if err != nil {
		return err
	}
	if t.Has("read only") && !c.Is("READ", "WRITE") {
		return refuse(12081, "update operation not allowed on table %s", quotedRef(ref))
	}
	m := &making{s: s, t: &catalog.Table{Schema: t.Schema, Name: t.Name}}
	switch {
	case c.Take("ADD", "PARTITION"):
		return s.addPartition(ctx, c, t)
	case c.Take("ADD"):
		return s.add(ctx, c, m)
	case c.Take("MODIFY", "CONSTRAINT"):
		name := c.Name()
		return s.restate(ctx, m, t, name, m.state(c))
	case c.Take("MODIFY", "PARTITION", "BY"):
		return s.modifyPartition(ctx, c, t)
	case c.Take("MODIFY"):
		return s.modify(ctx, c, m, t)
	case c.Is("ENABLE"), c.Is("DISABLE"):
		return s.switched(ctx, c, m, t)
	case c.Take("SPLIT", "PARTITION"):
		return s.split(ctx, c, t)
	case c.Take("MERGE", "PARTITIONS"):
		return s.merge(ctx, c, t)
	case c.Take("DROP", "PARTITION"):
		return s.dropPartition(ctx, c, t)
	case c.Take("DROP"):
		return s.drops(ctx, c, t)
	case c.Take("RENAME"):
		return s.renames(ctx, c, t)
	case c.Take("READ"):
		t.Options = slices.DeleteFunc(t.Options, func(o string) bool { return o == "read only" })
		if c.OneOf("ONLY", "WRITE") == "ONLY" {
			t.Options = append(t.Options, "read only")
		}
		return nil
	}
	c.Need("ADD")
	return nil
}

// add reads columns, in brackets or one, and constraints.
func (s *Session) add(ctx context.Context, c *grammar.Cursor, m *making) error {
	one := func() {
		if m.constraint(c) {
			return
		}
		later := m.later
		m.later = nil
		col := m.column(c)
		ref := m.t.Ref()
		m.later = append(append(later, func(ctx context.Context) error {
			t := s.d.Catalog.Table(ref)
			if t.Column(col.Name) != nil {
				return refuse(1430, "column being added already exists in table")
			}
			if col.Identity != catalog.NoIdentity {
				if slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool { return o.Identity != catalog.NoIdentity }) {
					return refuse(30669, "table can have only one identity column")
				}
				one := int64(1)
				t.Stats.Counter = &one
			}
			return s.AddColumn(ctx, ref, col, true)
		}), m.later...)
	}
	if c.Is("(") {
		c.List(one)
	} else {
		for one(); c.Is("CONSTRAINT"); one() { // several may follow one another
		}
	}
	return m.finish(ctx)
}

// restate lets a constraint be kept otherwise.
func (s *Session) restate(ctx context.Context, m *making, t *catalog.Table, name string, st states) error {
	at := state{t.Ref(), name}
	for _, f := range t.ForeignKeys {
		if f.Name != name {
			continue
		}
		if !st.off && !st.unchecked {
			if err := s.CheckForeignKey(ctx, t, f); err != nil {
				return err
			}
		}
		f.Disabled, f.NotValidated = st.off, st.unchecked
		if err := s.Guard(ctx, s.d.Catalog.Table(f.Target)); err != nil {
			return err
		}
		return s.Guard(ctx, t)
	}
	for i, k := range t.Checks {
		if k.Name != name {
			continue
		}
		if !st.off && !st.unchecked {
			if err := s.CheckCheck(ctx, t, k); err != nil {
				return err
			}
		}
		k.NotEnforced, k.NotValidated = st.off, st.unchecked
		if column, ok := strings.CutSuffix(k.Expression, " IS NOT NULL"); ok && !st.off && !st.unchecked { // then the column says so
			column = strings.Trim(column, `"`)
			if col := t.Column(column); col != nil {
				t.Checks = slices.Delete(t.Checks, i, i+1)
				col.Nullable = false
				s.d.more.nulls[state{t.Ref(), column}] = name
			}
		}
		return s.Guard(ctx, t)
	}
	for i, o := range t.Objects {
		if o.Name != name || st.off {
			continue
		}
		t.Objects = slices.Delete(t.Objects, i, i+1)
		s.d.more.states[at] = st
		return m.withIndex(ctx, t, &catalog.Key{Name: name, Columns: strings.Split(o.Definition, "\x00")}, o.Kind == "disabled primary", "", "")
	}
	for _, k := range t.Keys() {
		if k.Name != name {
			continue
		}
		if !st.off {
			return nil
		}
		kind := "disabled unique"
		if k == t.PrimaryKey {
			kind = "disabled primary"
		}
		if err := s.DropConstraint(ctx, t.Ref(), name); err != nil {
			return err
		}
		s.d.more.states[at] = st
		t.Objects = append(t.Objects, &catalog.Object{Kind: kind, Name: name, Definition: strings.Join(k.Columns, "\x00")})
		return nil
	}
	return refuse(2430, "cannot enable constraint (%s) - no such constraint", name)
}

// switched is ENABLE and DISABLE of a constraint, or of all triggers.
func (s *Session) switched(ctx context.Context, c *grammar.Cursor, m *making, t *catalog.Table) error {
	off := c.OneOf("ENABLE", "DISABLE") == "DISABLE"
	st := states{off: off, unchecked: off}
	if c.Take("NOVALIDATE") {
		st.unchecked = true
	} else {
		c.Take("VALIDATE")
	}
	if c.Take("ALL", "TRIGGERS") {
		for _, g := range t.Triggers {
			g.Enabled = map[bool]string{true: "disabled"}[off]
		}
		return nil
	}
	c.Need("CONSTRAINT")
	return s.restate(ctx, m, t, c.Name(), st)
}

// modify alters columns.
func (s *Session) modify(ctx context.Context, c *grammar.Cursor, m *making, t *catalog.Table) error {
	one := func() {
		name := c.Name()
		col := t.Column(name)
		if col == nil {
			grammar.Fail(&standin.Fault{Kind: standin.NoColumn, Name: name, Table: t.Ref()})
		}
		grammar.Check(s.modifyColumn(ctx, c, m, t, col))
	}
	if c.Is("(") {
		c.List(one)
	} else {
		one()
	}
	return m.finish(ctx)
}

func (s *Session) modifyColumn(ctx context.Context, c *grammar.Cursor, m *making, t *catalog.Table, col *catalog.Column) error {
	to := col.Type
	if !c.Is("NOT", "NULL") && !c.Is("NULL") && !c.Is("DEFAULT") && !c.Is("GENERATED") && !c.Is("CONSTRAINT") && !c.Is("INVISIBLE") && !c.Is("VISIBLE") {
		to = readType(c)
	}
	then := col.Clone()
	numbered := col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault
	for !c.Done() && !c.Is(",") && !c.Is(")") && !c.Is(";") {
		switch {
		case c.Take("INVISIBLE"):
			then.Invisible = true
		case c.Take("VISIBLE"):
			then.Invisible = false
		case c.Take("DEFAULT"):
			m.byDefault(c, then)
		case c.Take("GENERATED"):
			if !numbered {
				return refuse(30673, "column to be modified is not an identity column")
			}
			m.identity(c, then)
		case c.Take("NULL"):
			if col.Nullable {
				return refuse(1451, "column to be modified to NULL cannot be modified to NULL")
			}
			if k := t.PrimaryKey; k != nil && slices.Contains(k.Columns, col.Name) || numbered {
				return refuse(1451, "column to be modified to NULL cannot be modified to NULL")
			}
			then.Nullable = true
			delete(s.d.more.nulls, state{t.Ref(), col.Name})
		default:
			if c.Is("NOT", "NULL") && !col.Nullable && then.Default == col.Default {
				return refuse(1442, "column to be modified to NOT NULL is already NOT NULL")
			}
			m.ofColumn(c, then)
		}
	}
	if err := s.converts(ctx, t, col, to); err != nil {
		return err
	}
	if !then.Nullable && col.Nullable {
		n, err := s.d.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s IS NULL", s.d.Stored(t.Ref()), standin.Quote(col.Name)))
		if err != nil {
			return err
		}
		if n > 0 {
			return &standin.Fault{Kind: standin.Nulls, Name: col.Name, Table: t.Ref()}
		}
	}
	then.Type = to
	return s.Reshape(ctx, t.Ref(), nil, func(t *catalog.Table) error {
		if strings.EqualFold(then.Default, "NULL") {
			then.Default = "NULL" // which stays in the dictionary
		}
		for i, o := range t.Columns {
			if o.Name == then.Name {
				t.Columns[i] = then
			}
		}
		return nil
	})
}

// converts says what is against another type: values that are there are not converted.
func (s *Session) converts(ctx context.Context, t *catalog.Table, col *catalog.Column, to catalog.Type) error {
	from := col.Type
	if from.Native == to.Native {
		return nil
	}
	a, b := describe(from), describe(to)
	place, q := s.d.Stored(t.Ref()), standin.Quote(col.Name)
	count := func(where string) (int64, error) {
		return s.d.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s", place, where))
	}
	filled, err := count(q + " IS NOT NULL")
	if err != nil {
		return err
	}
	if t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, col.Name) {
		return refuse(14060, "data type or length of a table partitioning column may not be changed")
	}
	switch {
	case from.Native == "LONG" && to.Native == "CLOB", from.Native == "LONG RAW" && to.Native == "BLOB":
	case a.name != b.name:
		if filled > 0 {
			return refuse(1439, "column to be modified must be empty to change datatype")
		}
		for _, f := range s.d.Refers(t.Ref()) {
			_ = f
			return refuse(2267, "column type incompatible with referenced column type")
		}
	case a.name == "NUMBER":
		narrower := to.Precision != 0 && (from.Precision == 0 || to.Scale < from.Scale || to.Precision-to.Scale < from.Precision-from.Scale)
		if narrower && filled > 0 {
			return &standin.Fault{Kind: standin.NoNumber, Name: col.Name, Table: t.Ref()}
		}
	default:
		if long := standin.Long(to, q); long != "" {
			n, err := count(long)
			if err != nil {
				return err
			}
			if n > 0 {
				return &standin.Fault{Kind: standin.TooLong, Name: col.Name, Table: t.Ref()}
			}
		}
	}
	return nil
}

func (s *Session) drops(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	switch {
	case c.Take("COLUMN"):
		return s.dropColumn(ctx, t, c.Name())
	case c.Is("("):
		for _, name := range c.Names() {
			if err := s.dropColumn(ctx, t, name); err != nil {
				return err
			}
		}
		return nil
	}
	name := ""
	if c.Take("PRIMARY", "KEY") {
		if t.PrimaryKey == nil {
			return refuse(2441, "Cannot drop nonexistent primary key")
		}
		name = t.PrimaryKey.Name
	} else {
		c.Need("CONSTRAINT")
		name = c.Name()
	}
	c.Take("CASCADE")
	keep := c.Take("KEEP", "INDEX")
	if !keep {
		c.Take("DROP", "INDEX")
	}
	return s.dropConstraint(ctx, t, name, keep)
}

func (s *Session) dropConstraint(ctx context.Context, t *catalog.Table, name string, keep bool) error {
	if by := t.PartitionBy; by != nil && by.Method == "reference" && by.Definition == name {
		return refuse(14650, "operation not supported for reference-partitioned tables")
	}
	for column, called := range s.d.more.nulls {
		if column.table == t.Ref() && called == name {
			t.Column(column.name).Nullable = true
			delete(s.d.more.nulls, column)
			return s.Guard(ctx, t)
		}
	}
	for i, o := range t.Objects {
		if o.Name == name {
			t.Objects = slices.Delete(t.Objects, i, i+1)
			return nil
		}
	}
	var behind *catalog.Index
	for _, k := range t.Keys() {
		if k.Name == name {
			behind = t.Index(k.Index).Clone()
		}
	}
	var freed []*catalog.Column
	if k := t.PrimaryKey; k != nil && k.Name == name {
		for _, c := range k.Columns { // which takes nulls again, unless something else forbids them
			if col := t.Column(c); s.d.more.nulls[state{t.Ref(), c}] == "" && !numbers(col) {
				freed = append(freed, col)
			}
		}
	}
	err := s.DropConstraint(ctx, t.Ref(), name)
	if err == nil {
		for _, col := range freed {
			col.Nullable = true
		}
		err = s.Guard(ctx, t)
	}
	if f, ok := err.(*standin.Fault); ok && f.Kind == standin.Missing {
		return refuse(2443, "Cannot drop constraint - nonexistent constraint")
	}
	if err == nil && keep && behind != nil {
		behind.Origin = catalog.ByPerson
		t.Indexes = append(t.Indexes, behind)
		err = s.Guard(ctx, t)
	}
	return err
}

func (s *Session) dropColumn(ctx context.Context, t *catalog.Table, name string) error {
	col := t.Column(name)
	if col == nil {
		return &standin.Fault{Kind: standin.NoColumn, Name: name, Table: t.Ref()}
	}
	for _, o := range s.d.Catalog.Tables() {
		for _, f := range o.ForeignKeys {
			if f.Target == t.Ref() && slices.Contains(f.TargetColumns, name) {
				return refuse(12992, "cannot drop parent key column")
			}
		}
	}
	for _, k := range t.Keys() {
		if slices.Contains(k.Columns, name) && len(k.Columns) > 1 {
			return refuse(12991, "column is referenced in a multi-column constraint")
		}
	}
	for _, k := range slices.Clone(t.Keys()) { // what is on it alone goes with it
		if slices.Equal(k.Columns, []string{name}) {
			if err := s.DropConstraint(ctx, t.Ref(), k.Name); err != nil {
				return err
			}
		}
	}
	for _, f := range slices.Clone(t.ForeignKeys) {
		if slices.Equal(f.Columns, []string{name}) {
			if err := s.DropConstraint(ctx, t.Ref(), f.Name); err != nil {
				return err
			}
		}
	}
	t.Indexes = slices.DeleteFunc(t.Indexes, func(x *catalog.Index) bool { return slices.Contains(x.Columns(), name) })
	if col.Identity == catalog.IdentityAlways || col.Identity == catalog.IdentityByDefault {
		s.dropCounter(t.Ref())
	}
	delete(s.d.more.nulls, state{t.Ref(), name})
	return s.DropColumn(ctx, t.Ref(), name)
}

func (s *Session) renames(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	if c.Take("TO") {
		name, was := c.Name(), t.Ref()
		if err := s.RenameTable(ctx, was, name); err != nil {
			return err
		}
		s.moved(was, t.Ref())
		return nil
	}
	kind := c.OneOf("CONSTRAINT", "COLUMN")
	from := c.Name()
	c.Need("TO")
	to := c.Name()
	if kind == "COLUMN" {
		return refuse(900, "the simulated dictionary renames no columns")
	}
	at := state{t.Ref(), from}
	found := false
	for _, k := range t.Keys() {
		if k.Name == from {
			k.Name, found = to, true
		}
	}
	for _, f := range t.ForeignKeys {
		if f.Name == from {
			f.Name, found = to, true
		}
	}
	for _, k := range t.Checks {
		if k.Name == from {
			k.Name, found = to, true
		}
	}
	if !found {
		return refuse(23292, "The constraint does not exist")
	}
	s.d.more.states[state{t.Ref(), to}] = s.d.more.states[at]
	delete(s.d.more.states, at)
	delete(s.d.more.named, at)
	return s.Guard(ctx, t)
}

// moved lets what is kept of a table follow its name.
func (s *Session) moved(from, to catalog.Ref) {
	m := s.d.more
	for at, st := range m.states {
		if at.table == from {
			m.states[state{to, at.name}] = st
		}
	}
	for at := range m.named {
		if at.table == from {
			m.named[state{to, at.name}] = true
		}
	}
	for at, name := range m.nulls {
		if at.table == from {
			m.nulls[state{to, at.name}] = name
		}
	}
	if name := m.counters[from]; name != "" {
		m.counters[to] = name
		delete(m.counters, from)
	}
	if space, ok := m.spaces["table "+from.String()]; ok {
		m.spaces["table "+to.String()] = space
	}
}

// numbers reports whether a column forbids nulls since it is numbered, or takes its default for one.
func numbers(c *catalog.Column) bool {
	return c.Identity == catalog.IdentityAlways || c.Identity == catalog.IdentityByDefault || slices.Contains(c.Options, "default on null")
}
