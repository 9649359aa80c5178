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

// A production defines, alters or drops something.
type production struct {
	words string
	do    func(s *client, ctx context.Context, c *grammar.Cursor) error
}

var productions = []production{
	{"CREATE SCHEMA", (*client).createSchema}, {"DROP SCHEMA", (*client).dropSchema},
	{"CREATE TABLE", (*client).createTable}, {"DROP TABLE", (*client).dropTable}, {"ALTER TABLE", (*client).alterTable}, {"TRUNCATE TABLE", (*client).truncate},
	{"CREATE UNIQUE CLUSTERED INDEX", index(true, true)}, {"CREATE UNIQUE NONCLUSTERED INDEX", index(true, false)}, {"CREATE UNIQUE INDEX", index(true, false)},
	{"CREATE CLUSTERED INDEX", index(false, true)}, {"CREATE NONCLUSTERED INDEX", index(false, false)}, {"CREATE INDEX", index(false, false)},
	{"CREATE CLUSTERED COLUMNSTORE INDEX", columnstore(true)}, {"CREATE NONCLUSTERED COLUMNSTORE INDEX", columnstore(false)},
	{"CREATE PRIMARY XML INDEX", xmlIndex(true)}, {"CREATE XML INDEX", xmlIndex(false)}, {"CREATE SPATIAL INDEX", (*client).spatialIndex},
	{"CREATE FULLTEXT INDEX", (*client).createWords}, {"CREATE SECURITY POLICY", (*client).createPolicy},
	{"DROP INDEX", (*client).dropIndex}, {"ALTER INDEX", (*client).alterIndex},
	{"CREATE SEQUENCE", (*client).createSequence}, {"ALTER SEQUENCE", (*client).alterSequence}, {"DROP SEQUENCE", (*client).dropSequence},
	{"CREATE TYPE", (*client).createType}, {"DROP TYPE", (*client).dropType}, {"CREATE SYNONYM", (*client).createSynonym}, {"DROP SYNONYM", (*client).dropSynonym},
	{"CREATE VIEW", module(false)}, {"ALTER VIEW", module(true)}, {"CREATE OR ALTER VIEW", module(true)},
	{"CREATE PROCEDURE", module(false)}, {"ALTER PROCEDURE", module(true)}, {"CREATE FUNCTION", module(false)}, {"ALTER FUNCTION", module(true)},
	{"CREATE TRIGGER", module(false)}, {"ALTER TRIGGER", module(true)}, {"CREATE OR ALTER TRIGGER", module(true)}, {"CREATE OR ALTER PROCEDURE", module(true)},
	{"DROP VIEW", (*client).dropView}, {"DROP PROCEDURE", (*client).dropRoutine}, {"DROP FUNCTION", (*client).dropRoutine}, {"DROP TRIGGER", (*client).dropTrigger},
	{"DISABLE TRIGGER", trigger("disabled")}, {"ENABLE TRIGGER", trigger("")},
	{"CREATE STATISTICS", (*client).createStatistics}, {"UPDATE STATISTICS", (*client).updateStatistics},
	{"CREATE PARTITION FUNCTION", (*client).createFunction}, {"CREATE PARTITION SCHEME", (*client).createScheme},
	{"ALTER PARTITION FUNCTION", (*client).alterFunction}, {"ALTER PARTITION SCHEME", (*client).alterScheme},
	{"DROP PARTITION FUNCTION", (*client).dropFunction}, {"DROP PARTITION SCHEME", (*client).dropScheme},
	{"DBCC CHECKIDENT", (*client).checkIdent}, {"GRANT", grants("G")}, {"DENY", grants("D")},
}

func (s *client) define(ctx context.Context, c *grammar.Cursor) error {
	for _, p := range productions {
		if c.Take(strings.Fields(p.words)...) {
			return p.do(s, ctx, c)
		}
	}
	words := strings.Fields(c.Statement())
	return beyond("this statement: " + strings.Join(words[:min(4, len(words))], " "))
}

func (s *client) createSchema(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	if c.Take("AUTHORIZATION") {
		c.Name()
	}
	if s.db.Catalog.Schema(name) != nil {
		return refuse(2714, "There is already an object named '%s' in the database.", name)
	}
	s.db.Schema(name)
	return nil
}

func (s *client) dropSchema(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	schema := s.db.Catalog.Schema(name)
	switch {
	case schema == nil:
		return refuse(15151, "Cannot drop the schema '%s', because it does not exist or you do not have permission.", name)
	case schema.Size() > 0:
		return refuse(3729, "Cannot drop schema '%s' because it is being referenced by an object in it.", name)
	}
	s.db.Catalog.Schemas = slices.DeleteFunc(s.db.Catalog.Schemas, func(o *catalog.Schema) bool { return o == schema })
	return nil
}

// A making is a table that is being read, with what comes once it is there.
type making struct {
	s     *client
	t     *catalog.Table
	check bool // rows that are there are looked at
	later []func(ctx context.Context) error
}

func (s *client) createTable(ctx context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	m := &making{s: s, t: &catalog.Table{Schema: ref.Schema, Name: ref.Table, Kind: catalog.Ordinary}, check: true}
	c.List(func() {
		if m.constraint(c) {
			return
		}
		col := m.column(c)
		if m.t.Column(col.Name) != nil {
			grammar.Fail(refuse(2705, "Column names in each table must be unique. Column name '%s' in table '%s' is specified more than once.", col.Name, m.t.Name))
		}
		m.t.Columns = append(m.t.Columns, col)
	})
	s.placed(c, m.t)
	if c.Take("WITH") {
		m.t.Storage = m.s.options(c)
	}
	if n := len(slices.DeleteFunc(slices.Clone(m.t.Columns), func(c *catalog.Column) bool { return c.Identity == catalog.NoIdentity })); n > 1 {
		return refuse(2744, "Multiple identity columns specified for table '%s'. Only one identity column per table is allowed.", m.t.Name)
	}
	if seed, _ := counts(m.t); m.t.Stats.Counter == nil {
		m.t.Stats.Counter = &seed
	}
	if err := s.CreateTable(ctx, m.t); err != nil {
		return err
	}
	return m.finish(ctx)
}

func (m *making) finish(ctx context.Context) error {
	for _, do := range m.later {
		if err := do(ctx); err != nil {
			return err
		}
	}
	return nil
}

// placed reads ON filegroup, or ON scheme(column).
func (s *client) placed(c *grammar.Cursor, t *catalog.Table) {
	if !c.Take("ON") {
		return
	}
	name := c.Name()
	if !c.Is("(") {
		if name != "PRIMARY" && name != "default" {
			t.Tablespace = name
		}
		return
	}
	columns := c.Names()
	scheme := s.db.more.schemes[name]
	if scheme == nil {
		grammar.Fail(refuse(1921, "Invalid partition scheme '%s' specified.", name))
	}
	t.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: columns, Definition: name}
}

// options reads WITH (NAME = VALUE, ...), and leaves out those that say how to build.
func (s *client) options(c *grammar.Cursor) string {
	var kept []string
	on := map[string]bool{}
	c.List(func() {
		name := c.Word()
		c.Need("=")
		value := c.Peek(0).Text
		c.Skip()
		on[name] = strings.EqualFold(value, "ON")
		switch name {
		case "online", "resumable", "maxdop", "sort_in_tempdb", "drop_existing", "statistics_norecompute", "max_duration":
		case "fillfactor", "pad_index", "data_compression", "ignore_dup_key", "allow_row_locks", "allow_page_locks":
			kept = append(kept, strings.ToUpper(name)+" = "+strings.ToUpper(value))
		default:
			grammar.Fail(refuse(155, "'%s' is not a recognized CREATE INDEX option of the simulated server.", name))
		}
	})
	switch {
	case on["online"] && s.server.edition.Code != Developer.Code:
		grammar.Fail(refuse(1712, "Online index operations can only be performed in Enterprise edition of SQL Server or Azure SQL Edge."))
	case on["resumable"] && !on["online"]:
		grammar.Fail(refuse(11438, "The RESUMABLE option cannot be set to 'ON' when the ONLINE option is set to 'OFF'."))
	case on["resumable"] && on["drop_existing"]:
		grammar.Fail(refuse(11438, "The RESUMABLE option cannot be set to 'ON' when the DROP_EXISTING option is set to 'ON'."))
	case on["resumable"] && s.depth > 0:
		grammar.Fail(refuse(574, "RESUMABLE INDEX statement cannot be used inside a user transaction."))
	}
	return strings.Join(kept, ", ")
}

func (m *making) systemName(kind, column string) string {
	cut := func(name string, n int) string {
		if r := []rune(name); len(r) > n {
			return string(r[:n])
		}
		return name
	}
	number := m.s.db.id("name", m.t.Schema, m.t.Name, kind, column, fmt.Sprint(len(m.s.db.ids)))
	if kind == "PK" || kind == "UQ" {
		return fmt.Sprintf("%s__%s__%016X", kind, cut(m.t.Name, 8), uint64(number)*0x9E3779B97F4A7C15)
	}
	return fmt.Sprintf("%s__%s__%s__%08X", kind, cut(m.t.Name, 9), cut(column, 5), uint32(number))
}

// column reads a column's definition; its constraints are added once it is there.
func (m *making) column(c *grammar.Cursor) *catalog.Column {
	col := &catalog.Column{Name: c.Name(), Nullable: true}
	if c.Take("AS") {
		col.Generated = m.s.db.kept(c.Bracketed())
		col.Type = catalog.Type{Native: "sql_variant", Family: catalog.Other}
		if col.Stored = c.Take("PERSISTED"); c.Take("NOT", "NULL") {
			col.Nullable = false
		}
		return col
	}
	col.Type = m.s.readType(c)
	for !c.Done() && !c.Is(",") && !c.Is(")") && !c.Is(";") {
		switch {
		case c.Take("COLLATE"):
			if name := c.Name(); name != collation {
				col.Type.Collation = name
			}
		case c.Take("SPARSE"):
			col.Options = append(col.Options, "sparse")
		case c.Take("MASKED", "WITH"):
			_, function, _ := strings.Cut(c.Bracketed(), "'")
			col.Options = append(col.Options, maskedBy+strings.ReplaceAll(strings.TrimSuffix(function, "'"), "''", "'"))
		case c.Take("ROWGUIDCOL"):
			col.Options = append(col.Options, "rowguidcol")
		case c.Take("IDENTITY"):
			if col.Type.Family != catalog.Integer && !(col.Type.Family == catalog.Decimal && col.Type.Scale == 0) {
				grammar.Fail(refuse(2749, "Identity column '%s' must be of data type int, bigint, smallint, tinyint, or decimal or numeric with a scale of 0.", col.Name))
			}
			col.Identity, col.Nullable = catalog.IdentityAlways, false
			if c.Is("(") {
				var n []int64
				c.List(func() { n = append(n, c.Number()) })
				if len(n) == 2 && (n[0] != 1 || n[1] != 1) {
					col.Options = append(col.Options, fmt.Sprintf("identity(%d,%d)", n[0], n[1]))
				}
			}
		case c.Take("NOT", "FOR", "REPLICATION"):
			col.Options = append(col.Options, "not for replication")
		case c.Take("NOT", "NULL"):
			col.Nullable = false
		case c.Take("NULL"):
			col.Nullable = true
		default:
			m.ofColumn(c, col)
		}
	}
	return col
}

// ofColumn reads a constraint of a column.
func (m *making) ofColumn(c *grammar.Cursor, col *catalog.Column) {
	given := ""
	if c.Take("CONSTRAINT") {
		given = c.Name()
	}
	name := func(kind string) string {
		if given != "" {
			return given
		}
		return m.systemName(kind, col.Name)
	}
	switch {
	case c.Take("DEFAULT"):
		if col.Identity != catalog.NoIdentity {
			grammar.Fail(refuse(1754, "Defaults cannot be created on columns with an IDENTITY attribute. Table '%s', column '%s'.", m.t.Name, col.Name))
		}
		col.DefaultName, col.Default = name("DF"), m.s.db.kept(c.Until("CONSTRAINT", "NOT NULL", "NULL", "PRIMARY KEY", "UNIQUE", "CHECK", "REFERENCES", "FOREIGN KEY", "WITH VALUES", "FOR"))
	case c.Take("CHECK"):
		m.checked(name("CK"), col.Name, c.Bracketed())
	case c.Is("PRIMARY", "KEY"), c.Is("UNIQUE"):
		primary := c.OneOf("PRIMARY KEY", "UNIQUE") == "PRIMARY KEY"
		if primary {
			col.Nullable = false
		}
		m.key(c, name(map[bool]string{true: "PK", false: "UQ"}[primary]), primary, []catalog.IndexPart{{Column: col.Name}})
	case c.Take("FOREIGN", "KEY"), c.Is("REFERENCES"):
		m.reference(c, name("FK"), []string{col.Name})
	default:
		c.Need("DEFAULT")
	}
}

// constraint reads one of a table, and reports whether there was one.
func (m *making) constraint(c *grammar.Cursor) bool {
	if !c.Is("CONSTRAINT") && !c.Is("PRIMARY", "KEY") && !c.Is("UNIQUE") && !c.Is("FOREIGN", "KEY") && !c.Is("CHECK") && !c.Is("DEFAULT") {
		return false
	}
	given := ""
	if c.Take("CONSTRAINT") {
		given = c.Name()
	}
	name := func(kind string) string {
		if given != "" {
			return given
		}
		return m.systemName(kind, "")
	}
	switch {
	case c.Take("CHECK"):
		m.checked(name("CK"), "", c.Bracketed())
	case c.Take("FOREIGN", "KEY"):
		m.reference(c, name("FK"), c.Names())
	case c.Take("DEFAULT"):
		value := m.s.db.kept(c.Until("FOR"))
		c.Need("FOR")
		column := c.Name()
		called := name("DF")
		m.later = append(m.later, func(ctx context.Context) error { return m.s.setDefault(ctx, m.t.Ref(), column, called, value) })
	default:
		primary := c.OneOf("PRIMARY KEY", "UNIQUE") == "PRIMARY KEY"
		m.key(c, name(map[bool]string{true: "PK", false: "UQ"}[primary]), primary, nil)
	}
	return true
}

func (m *making) checked(name, column, expression string) {
	k := &catalog.Check{Name: name, Column: column, Expression: m.s.db.kept(expression), NotValidated: !m.check}
	checked := m.check
	m.later = append(m.later, func(ctx context.Context) error { return m.s.AddCheck(ctx, m.t.Ref(), k, checked) })
}

// key reads [CLUSTERED|NONCLUSTERED] (columns) [WITH (...)] [ON ...].
func (m *making) key(c *grammar.Cursor, name string, primary bool, columns []catalog.IndexPart) {
	x := &catalog.Index{Name: name, Origin: catalog.ByUniqueKey, Method: "btree", Unique: true}
	said := c.Is("CLUSTERED") || c.Is("NONCLUSTERED")
	if x.Clustered = c.Take("CLUSTERED"); !x.Clustered {
		c.Take("NONCLUSTERED")
	}
	if columns == nil {
		columns = indexParts(c)
	}
	x.Parts = columns
	if primary {
		x.Origin = catalog.ByPrimaryKey
	}
	if c.Take("WITH") {
		x.Storage = m.s.options(c)
	}
	lay := m.s.laid(c, x)
	m.later = append(m.later, func(ctx context.Context) error {
		t := m.s.db.Catalog.Table(m.t.Ref())
		if primary && !said {
			x.Clustered = t.Clustering() == nil
		}
		lay(t)
		if err := suits(m.s, t, x); err != nil {
			return err
		}
		if primary && m.fresh() {
			for _, n := range x.Columns() {
				if col := t.Column(n); col != nil {
					col.Nullable = false // in CREATE TABLE a key says so by itself
				}
			}
		}
		return m.s.AddKey(ctx, m.t.Ref(), &catalog.Key{Name: name, Columns: x.Columns(), Index: name}, primary, x)
	})
}

// fresh reports whether the table is being made.
func (m *making) fresh() bool { return m.s.db.Catalog.Table(m.t.Ref()) == m.t }

func indexParts(c *grammar.Cursor) []catalog.IndexPart {
	var parts []catalog.IndexPart
	c.List(func() {
		p := catalog.IndexPart{Column: c.Name()}
		if p.Descending = c.Take("DESC"); !p.Descending {
			c.Take("ASC")
		}
		parts = append(parts, p)
	})
	return parts
}

// laid reads where an index lies, and returns what lays it there. A clustered one takes the table
// with it; others lie with the table where nothing is said, unless it is cut up otherwise.
func (s *client) laid(c *grammar.Cursor, x *catalog.Index) func(t *catalog.Table) {
	if !c.Is("ON") {
		return func(t *catalog.Table) {
			if by := t.PartitionBy; by != nil && !x.Clustered {
				x.Tablespace = by.Definition + "(" + strings.Join(by.Columns, ", ") + ")"
			}
		}
	}
	at := &catalog.Table{}
	s.placed(c, at)
	return func(t *catalog.Table) {
		switch {
		case x.Clustered:
			t.Tablespace, t.PartitionBy = at.Tablespace, at.PartitionBy
		case at.PartitionBy != nil:
			x.Tablespace = at.PartitionBy.Definition + "(" + strings.Join(at.PartitionBy.Columns, ", ") + ")"
		case at.Tablespace == "" && t.PartitionBy != nil:
			x.Tablespace = "PRIMARY"
		default:
			x.Tablespace = at.Tablespace
		}
	}
}

// suits says what the server would have against an index.
func suits(s *client, t *catalog.Table, x *catalog.Index) error {
	if other := t.Clustering(); x.Clustered && other != nil {
		return refuse(1902, "Cannot create more than one clustered index on table '%s'. Drop the existing clustered index '%s' before creating another.", t.Name, other.Name)
	}
	if len(x.Parts) > 32 {
		return refuse(1904, "The index '%s' on table '%s' has %d columns in the key list. The maximum limit for index key column list is 32.", x.Name, t.Name, len(x.Parts))
	}
	size := 0
	for _, p := range x.Parts {
		col := t.Column(p.Column)
		if col == nil {
			return refuse(1911, "Column name '%s' does not exist in the target table or view.", p.Column)
		}
		d := describe(col.Type)
		if d.length < 0 || slices.Contains([]string{"text", "ntext", "image", "xml"}, d.kind.name) {
			return refuse(1919, "Column '%s' in table '%s' is of a type that is invalid for use as a key column in an index.", col.Name, t.Name)
		}
		if col.Type.Family != catalog.Text && col.Type.Family != catalog.Binary || strings.HasPrefix(d.kind.name, "char") || strings.HasPrefix(d.kind.name, "nchar") || d.kind.name == "binary" {
			size += d.length // of others a long value is refused when it comes
		}
	}
	if most := map[bool]int{true: 900, false: 1700}[x.Clustered]; size > most {
		return refuse(1944, "Index '%s' was not created. This index has a key length of at least %d bytes. The maximum permissible key length is %d bytes.", x.Name, size, most)
	}
	if x.Unique && t.PartitionBy != nil && x.Tablespace != "PRIMARY" && !catalog.Within(t.PartitionBy.Columns, x.Columns()) {
		return refuse(1908, "Column '%s' is partitioning column of the index '%s'. Partition columns for a unique index must be a subset of the index key.", t.PartitionBy.Columns[0], x.Name)
	}
	return nil
}

// reference reads REFERENCES target [(columns)] [ON DELETE ...] [ON UPDATE ...].
func (m *making) reference(c *grammar.Cursor, name string, columns []string) {
	c.Need("REFERENCES")
	f := &catalog.ForeignKey{Name: name, Columns: columns, Target: c.Ref("dbo"), OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction, NotValidated: !m.check}
	if c.Is("(") {
		f.TargetColumns = c.Names()
	}
	for c.Take("ON") {
		on := c.OneOf("DELETE", "UPDATE")
		does := catalog.Action(strings.ToLower(c.OneOf("NO ACTION", "CASCADE", "SET NULL", "SET DEFAULT")))
		if on == "DELETE" {
			f.OnDelete = does
		} else {
			f.OnUpdate = does
		}
	}
	checked := m.check
	m.later = append(m.later, func(ctx context.Context) error {
		to := m.s.db.Catalog.Table(f.Target)
		if to == nil {
			return refuse(1767, "Foreign key '%s' references invalid table '%s'.", f.Name, f.Target)
		}
		if f.TargetColumns == nil && to.PrimaryKey != nil {
			f.TargetColumns = to.PrimaryKey.Columns
		}
		if err := m.s.fits(m.s.db.Catalog.Table(m.t.Ref()), f, to); err != nil {
			return err
		}
		return m.s.AddForeignKey(ctx, m.t.Ref(), f, checked)
	})
}

// fits says what the server would have against a foreign key: types that differ, no key, and
// actions that would meet.
func (s *client) fits(t *catalog.Table, f *catalog.ForeignKey, to *catalog.Table) error {
	if err := standin.Columns(t, f.Columns); err != nil {
		return err
	}
	if err := standin.Columns(to, f.TargetColumns); err != nil {
		return err
	}
	for i, n := range f.Columns {
		a, b := describe(t.Column(n).Type), describe(to.Column(f.TargetColumns[i]).Type)
		if a.kind != b.kind || a.precision != b.precision || a.scale != b.scale || a.length != b.length && a.kind.family != catalog.Text || t.Column(n).Type.Collation != to.Column(f.TargetColumns[i]).Type.Collation {
			return refuse(1778, "Column '%s.%s' is not the same data type as referencing column '%s.%s' in foreign key '%s'.", to.Name, f.TargetColumns[i], t.Name, n, f.Name)
		}
	}
	for _, x := range to.Indexes { // the first that keeps them unique, whole and in use
		if x.Unique && !x.Invalid && x.Predicate == "" && catalog.SameColumns(x.Columns(), f.TargetColumns) {
			f.TargetIndex = x.Name
			break
		}
	}
	if f.TargetIndex == "" {
		return &standin.Fault{Kind: standin.NoUniqueKey, Name: f.Name, Table: to.Ref()}
	}
	if f.OnDelete == catalog.SetNull || f.OnUpdate == catalog.SetNull {
		for _, n := range f.Columns {
			if !t.Column(n).Nullable {
				return refuse(1761, "Cannot create the foreign key \"%s\" with the SET NULL referential action, because one or more referencing columns are not nullable.", f.Name)
			}
		}
	}
	if acts(f) && s.meets(t.Ref(), f) {
		return refuse(1785, "Introducing FOREIGN KEY constraint '%s' on table '%s' may cause cycles or multiple cascade paths. Specify ON DELETE NO ACTION or ON UPDATE NO ACTION, or modify other FOREIGN KEY constraints.", f.Name, t.Name)
	}
	return nil
}

func acts(f *catalog.ForeignKey) bool {
	return f.OnDelete != catalog.NoAction || f.OnUpdate != catalog.NoAction
}

// meets reports whether, with the foreign key, the actions that begin at one table could come to
// a table twice.
func (s *client) meets(on catalog.Ref, f *catalog.ForeignKey) bool {
	edges := map[catalog.Ref][]catalog.Ref{f.Target: {on}}
	for _, t := range s.db.Catalog.Tables() {
		for _, o := range t.ForeignKeys {
			if acts(o) {
				edges[o.Target] = append(edges[o.Target], t.Ref())
			}
		}
	}
	for start := range edges {
		seen := map[catalog.Ref]bool{start: true}
		for queue := []catalog.Ref{start}; len(queue) > 0; queue = queue[1:] {
			for _, next := range edges[queue[0]] {
				if seen[next] {
					return true
				}
				seen[next] = true
				queue = append(queue, next)
			}
		}
	}
	return false
}

func (s *client) dropTable(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	for {
		ref := c.Ref("dbo")
		if s.db.Catalog.Table(ref) == nil {
			if !quiet {
				return refuse(3701, "Cannot drop the table '%s', because it does not exist or you do not have permission.", ref)
			}
		} else {
			if by := s.boundTo(ref, ""); by != "" {
				return refuse(3729, "Cannot DROP TABLE '%s' because it is being referenced by object '%s'.", ref, by)
			}
			if err := s.DropTable(ctx, ref); err != nil {
				return err
			}
		}
		if !c.Take(",") {
			return nil
		}
	}
}

func (s *client) truncate(ctx context.Context, c *grammar.Cursor) error {
	ref := c.Ref("dbo")
	t, err := s.db.Table(ref)
	if err != nil {
		return err
	}
	for _, o := range s.db.Refers(ref) {
		for _, f := range o.ForeignKeys {
			if f.Target == ref {
				return refuse(4712, "Cannot truncate table '%s' because it is being referenced by a FOREIGN KEY constraint.", t.Name)
			}
		}
	}
	seed, _ := counts(t)
	t.Stats.Counter = &seed
	return s.db.Do(ctx, "DELETE FROM "+s.db.Stored(ref))
}

func index(unique, clustered bool) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, ctx context.Context, c *grammar.Cursor) error {
		x := &catalog.Index{Name: c.Name(), Origin: catalog.ByPerson, Method: "btree", Unique: unique, Clustered: clustered}
		c.Need("ON")
		ref := c.Ref("dbo")
		t, err := s.db.Table(ref)
		if err != nil {
			return refuse(1088, "Cannot find the object \"%s\" because it does not exist or you do not have permissions.", ref)
		}
		x.Parts = indexParts(c)
		if c.Take("INCLUDE") {
			x.Include = c.Names()
		}
		if c.Take("WHERE") {
			x.Predicate = s.db.kept(c.Until("WITH", "ON"))
			if clustered {
				return refuse(10606, "Cannot create a filtered clustered index on table '%s'.", t.Name)
			}
		}
		again := false
		if c.Take("WITH") {
			again = c.Ahead("DROP_EXISTING", "=", "ON")
			x.Storage = s.options(c)
		}
		lay := s.laid(c, x)
		old := t.Index(x.Name)
		switch {
		case old == nil && again:
			return refuse(7999, "Could not find any index named '%s' for table '%s'.", x.Name, ref)
		case old != nil && !again:
			return refuse(1913, "The operation failed because an index or statistics with name '%s' already exists on table '%s'.", x.Name, ref)
		case old != nil && old.Clustered && !clustered:
			return refuse(1925, "Cannot convert a clustered index to a nonclustered index by using the DROP_EXISTING option.")
		case old != nil && old.Origin != catalog.ByPerson: // which stays that of its constraint
			if x.Unique != old.Unique || x.Clustered != old.Clustered || !slices.Equal(x.Parts, old.Parts) {
				return refuse(1907, "Cannot recreate index '%s'. The new index definition does not match the constraint being enforced by the existing index.", x.Name)
			}
			lay(t)
			if t.PartitionBy != nil && !catalog.Within(t.PartitionBy.Columns, x.Columns()) && x.Tablespace != "PRIMARY" {
				return refuse(1908, "Column '%s' is partitioning column of the index '%s'. Partition columns for a unique index must be a subset of the index key.", t.PartitionBy.Columns[0], x.Name)
			}
			old.Storage, old.Tablespace = x.Storage, x.Tablespace
			return nil
		case old != nil:
			t.Indexes = slices.DeleteFunc(t.Indexes, func(o *catalog.Index) bool { return o == old })
		}
		lay(t)
		if err := suits(s, t, x); err != nil {
			return err
		}
		return s.AddIndex(ctx, ref, x)
	}
}

func columnstore(clustered bool) func(*client, context.Context, *grammar.Cursor) error {
	return func(s *client, ctx context.Context, c *grammar.Cursor) error {
		x := &catalog.Index{Name: c.Name(), Origin: catalog.ByPerson, Method: "columnstore", Clustered: clustered}
		c.Need("ON")
		ref := c.Ref("dbo")
		t, err := s.db.Table(ref)
		if err != nil {
			return err
		}
		if clustered && t.Clustering() != nil {
			return refuse(35372, "You cannot create more than one clustered index on table '%s'.", t.Name)
		}
		if !clustered {
			for _, n := range c.Names() {
				x.Parts = append(x.Parts, catalog.IndexPart{Column: n})
			}
		}
		return s.AddIndex(ctx, ref, x)
	}
}

func (s *client) dropIndex(ctx context.Context, c *grammar.Cursor) error {
	quiet := c.Take("IF", "EXISTS")
	name := c.Name()
	c.Need("ON")
	ref := c.Ref("dbo")
	t, err := s.db.Table(ref)
	if err != nil {
		return err
	}
	x := t.Index(name)
	switch {
	case x == nil && quiet:
		return nil
	case x == nil:
		return refuse(3701, "Cannot drop the index '%s.%s', because it does not exist or you do not have permission.", ref, name)
	case x.Origin != catalog.ByPerson:
		return refuse(3723, "An explicit DROP INDEX is not allowed on index '%s.%s'. It is being used for %s constraint enforcement.", ref, name, strings.ToUpper(string(x.Origin)))
	}
	for _, other := range append(under(t, name), name) {
		if err := s.DropIndex(ctx, ref, other); err != nil {
			return err
		}
	}
	return nil
}

func (s *client) alterIndex(ctx context.Context, c *grammar.Cursor) error {
	all := c.Take("ALL")
	name := ""
	if !all {
		name = c.Name()
	}
	c.Need("ON")
	ref := c.Ref("dbo")
	t, err := s.db.Table(ref)
	if err != nil {
		return err
	}
	does := c.OneOf("REBUILD", "DISABLE", "REORGANIZE", "ABORT", "PAUSE", "RESUME")
	if does == "ABORT" || does == "PAUSE" || does == "RESUME" { // no build is ever stopped here
		return refuse(10638, "ALTER INDEX '%s' failed. There is no pending resumable index operation for the index '%s' on '%s'.", does, name, ref)
	}
	said := ""
	if c.Take("WITH") {
		said = s.options(c)
	}
	for _, x := range t.Indexes {
		if !all && x.Name != name {
			continue
		}
		switch does {
		case "DISABLE":
			x.Invalid = true
		case "REBUILD":
			if x.Invalid = false; said != "" {
				x.Storage = said
			}
		}
	}
	if !all && t.Index(name) == nil {
		return refuse(7999, "Could not find any index named '%s' for table '%s'.", name, ref)
	}
	return s.Guard(ctx, t)
}
