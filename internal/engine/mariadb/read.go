package mariadb

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqllex"
)

// reader gathers the catalog of one database, or of all.
type reader struct {
	*traits.Family
	answers
	catalog *catalog.Catalog
	schemas map[string]*catalog.Schema
	tables  map[catalog.Ref]*catalog.Table
	views   map[catalog.Ref]*catalog.View
	invoked map[*catalog.Routine]bool // act with the rights of who calls them
	names   *sqllex.Names             // of tables, views and sequences
	err     error
}

// Survey reads the views of information_schema
// (https://mariadb.com/kb/en/information-schema-tables/), each once and
// filtered by schema; they are joined here, since the engine joins them
// slowly.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	if _, err := s.conn.ExecContext(ctx, "START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY"); err != nil {
		if _, err = s.conn.ExecContext(ctx, "START TRANSACTION READ ONLY"); err != nil {
			return nil, s.wrap(ctx, "", err)
		}
	}
	defer s.conn.ExecContext(context.WithoutCancel(ctx), "ROLLBACK")
	if s.database != "" {
		s.among = []string{s.database}
	}
	r := newReader(s.family, &live{ctx: ctx, conn: s.conn, family: s.family, only: s.among}, cmp.Or(s.database, "all databases"))
	c, err := r.read()
	if err != nil {
		return nil, s.wrap(ctx, "", err)
	}
	return c, nil
}

func newReader(family *traits.Family, from answers, database string) *reader {
	return &reader{Family: family, answers: from, schemas: map[string]*catalog.Schema{}, tables: map[catalog.Ref]*catalog.Table{},
		views: map[catalog.Ref]*catalog.View{}, invoked: map[*catalog.Routine]bool{}, names: sqllex.NewNames(sqllex.AsIs, sqllex.AsIs),
		catalog: &catalog.Catalog{Engine: catalog.Engine{Name: family.Name}, Database: database, Surveyed: time.Now().UTC()}}
}

// read puts the questions, in an order in which each finds what it needs.
func (r *reader) read() (*catalog.Catalog, error) {
	for _, read := range []func(){r.settings, r.schemata, r.relations, r.sequences, r.columns, r.indexes, r.references, r.checks,
		r.partitions, r.texts, r.viewTexts, r.triggers, r.routines, r.statements, r.events, r.faults, r.privileges, r.statistics} {
		if read(); r.err != nil {
			return nil, r.err
		}
	}
	for _, t := range r.tables {
		nameOrigins(t)
	}
	r.catalog.Sort()
	engine.Hints(r.catalog, Engine{}.Dialect())
	return r.catalog, nil
}

// ask puts a question and hands each row to scan, unless something failed before. %s in it
// stands for the condition on the named column that the schema is one of those that are read.
func (r *reader) ask(query, column string, row func(scan func(...any) error) error) {
	if r.err == nil {
		r.err = r.rows(question{text: query, column: column}, row)
	}
}

func (r *reader) settings() {
	r.ask(`SELECT VERSION(), @@GLOBAL.foreign_key_checks = 1, @@GLOBAL.character_set_server, @@GLOBAL.`+r.Isolation+`, @@GLOBAL.default_storage_engine`, "",
		func(scan func(...any) error) error {
			var checks bool
			var version, charset, isolation, storage string
			if err := scan(&version, &checks, &charset, &isolation, &storage); err != nil {
				return err
			}
			r.catalog.Engine.Version, _, _ = strings.Cut(version, "-")
			r.catalog.Settings = []catalog.Setting{
				{Name: "foreign_key_checks", Value: map[bool]string{true: "ON", false: "OFF"}[checks], Source: "server"},
				{Name: "character_set_server", Value: charset, Source: "server"},
				{Name: r.Isolation, Value: isolation, Source: "server"},
				{Name: "default_storage_engine", Value: storage, Source: "server"},
			}
			return nil
		})
}

func (r *reader) schemata() {
	r.ask(`SELECT SCHEMA_NAME, DEFAULT_CHARACTER_SET_NAME, DEFAULT_COLLATION_NAME, `+r.SchemaComment+` FROM information_schema.SCHEMATA WHERE %s`, "SCHEMA_NAME", func(scan func(...any) error) error {
		s := &catalog.Schema{}
		var charset, collation string
		err := scan(&s.Name, &charset, &collation, &s.Comment)
		s.Options = []string{"character set " + charset, "collate " + collation}
		r.schemas[s.Name] = s
		r.catalog.Schemas = append(r.catalog.Schemas, s)
		return err
	})
}

func (r *reader) gap(schema, table, what, reason string) {
	r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: schema, Table: table, What: what, Reason: reason})
}

// lossy reports whether an expression may have been shown so.
func lossy(text string) bool { return strings.Contains(text, "????") }

func (r *reader) relations() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, TABLE_TYPE, COALESCE(ENGINE, ''), TABLE_ROWS, DATA_LENGTH, INDEX_LENGTH, COALESCE(TABLE_COMMENT, ''),
			COALESCE(TABLE_COLLATION, ''), COALESCE(CREATE_OPTIONS, ''), AUTO_INCREMENT
		FROM information_schema.TABLES WHERE %s`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var schema, kind, storage, options string
		t := &catalog.Table{Kind: catalog.Ordinary}
		if err := scan(&schema, &t.Name, &kind, &storage, &t.Stats.Rows, &t.Stats.Bytes, &t.Stats.IndexBytes, &t.Comment, &t.Collation, &options, &t.Stats.Counter); err != nil {
			return err
		}
		s := r.schemas[schema]
		if s == nil {
			return nil
		}
		t.Schema = schema
		switch kind {
		case "BASE TABLE", "SYSTEM VERSIONED":
			if storage == "" { // its definition cannot be read; the comment says why
				r.gap(schema, t.Name, "table", t.Comment)
				return nil
			}
			if !strings.EqualFold(storage, "InnoDB") {
				t.Options = append(t.Options, "engine "+storage)
			}
			if kind == "SYSTEM VERSIONED" {
				t.Options = append(t.Options, "system versioned")
			}
			var said []string
			for _, o := range strings.Fields(options) {
				if o != "partitioned" {
					said = append(said, o)
				}
			}
			t.Storage = strings.Join(said, " ")
			s.Tables = append(s.Tables, t)
			r.tables[t.Ref()] = t
			r.names.Add(catalog.ObjectRef{Kind: catalog.KindTable, Schema: schema, Name: t.Name}, t.Name)
		case "VIEW":
			v := &catalog.View{Name: t.Name}
			if t.Comment != "VIEW" { // the engine tried it
				r.catalog.Faults = append(r.catalog.Faults, catalog.Fault{Kind: catalog.KindView, Schema: schema, Name: t.Name, Reason: t.Comment})
			}
			s.Views = append(s.Views, v)
			r.views[t.Ref()] = v
			r.names.Add(catalog.ObjectRef{Kind: catalog.KindView, Schema: schema, Name: t.Name}, t.Name)
		case "SEQUENCE":
			s.Sequences = append(s.Sequences, &catalog.Sequence{Name: t.Name, Comment: t.Comment})
			r.names.Add(catalog.ObjectRef{Kind: catalog.KindSequence, Schema: schema, Name: t.Name}, t.Name)
		}
		return nil
	})
}

// sequencesQuery is the question for one sequence.
const sequencesQuery = "SELECT %s, %s, minimum_value, maximum_value, start_value, increment, cache_size, cycle_option, next_not_cached_value FROM %s"

// sequences reads each sequence's own row, all in one question
// (https://mariadb.com/kb/en/create-sequence/).
func (r *reader) sequences() {
	var asked []string
	known := map[catalog.Ref]*catalog.Sequence{}
	for _, s := range r.catalog.Schemas {
		for _, q := range s.Sequences {
			known[catalog.Ref{Schema: s.Name, Table: q.Name}] = q
			asked = append(asked, fmt.Sprintf(sequencesQuery, traits.Literal(s.Name), traits.Literal(q.Name), traits.Relation(catalog.Ref{Schema: s.Name, Table: q.Name})))
		}
	}
	if r.err != nil || !r.Sequences {
		return
	}
	r.err = r.rows(question{text: sequencesQuery, now: asked, about: true}, func(scan func(...any) error) error {
		var ref catalog.Ref
		var next int64
		var q catalog.Sequence
		err := scan(&ref.Schema, &ref.Table, &q.Least, &q.Most, &q.Start, &q.Increment, &q.Cache, &q.Cycle, &next)
		if k := known[ref]; k != nil {
			q.Name, q.Comment, q.Type = k.Name, k.Comment, "bigint"
			// What was handed out last is not kept; the next that is not in a
			// cache lies one step behind it at most.
			if last := next - q.Increment; next != q.Start {
				q.Last = &last
			}
			*k = q
			delete(known, ref)
		}
		return err
	})
	for ref := range known {
		r.gap(ref.Schema, "", "numbers of sequence "+ref.Table, "no SELECT privilege on it")
	}
}

func (r *reader) columns() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, COLUMN_DEFAULT, IS_NULLABLE = 'YES', DATA_TYPE, COLUMN_TYPE, COALESCE(COLLATION_NAME, ''),
			CHARACTER_MAXIMUM_LENGTH, NUMERIC_PRECISION, NUMERIC_SCALE, EXTRA, COALESCE(GENERATION_EXPRESSION, ''), COLUMN_COMMENT
		FROM information_schema.COLUMNS WHERE %s ORDER BY TABLE_SCHEMA, TABLE_NAME, ORDINAL_POSITION`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var value *string
		var data, native, collation, extra string
		var length, precision, scale *int64
		c := &catalog.Column{}
		if err := scan(&ref.Schema, &ref.Table, &c.Name, &value, &c.Nullable, &data, &native, &collation, &length, &precision, &scale, &extra, &c.Generated, &c.Comment); err != nil {
			return err
		}
		if v := r.views[ref]; v != nil {
			v.Columns = append(v.Columns, &catalog.ViewColumn{Name: c.Name, Type: native})
			return nil
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		c.Type = traits.TypeOf(data, native, collation, length, precision, scale)
		if value != nil {
			c.Default = r.unqualified(ref.Schema, r.DefaultOf(*value, data, extra))
			if c.Type.Family == catalog.Binary && data != "bit" && strings.ContainsAny(c.Default, "?\ufffd") {
				r.gap(ref.Schema, ref.Table, "default of column "+c.Name, "the server shows bytes that are no text as ?")
				c.Default = ""
			}
			r.draws(ref, c)
		}
		if c.Generated = r.unqualified(ref.Schema, r.Family.Generated(c.Generated)); lossy(c.Generated) {
			r.gap(ref.Schema, ref.Table, "expression of column "+c.Name, traits.FourBytes)
		}
		extra = strings.ToLower(extra)
		if _, rest, ok := strings.Cut(extra, "on update "); ok {
			c.OnUpdate, _, _ = strings.Cut(rest, ",")
		}
		c.Invisible = strings.Contains(extra, "invisible")
		if strings.Contains(extra, "without system versioning") {
			c.Options = append(c.Options, "without system versioning")
		}
		if strings.Contains(extra, "auto_increment") {
			c.Identity = catalog.IdentityCounter
		}
		c.Stored = strings.Contains(extra, "stored generated")
		t.Columns = append(t.Columns, c)
		return nil
	})
}

func (r *reader) indexes() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, INDEX_NAME, NON_UNIQUE = 0, COALESCE(COLUMN_NAME, ''), COALESCE(COLLATION, 'A') = 'D', COALESCE(SUB_PART, 0), LOWER(INDEX_TYPE), INDEX_COMMENT, `+r.Ignored(r.version())+`, COALESCE(COMMENT, '') = 'disabled', SEQ_IN_INDEX, `+r.Views.Expression+`
		FROM information_schema.STATISTICS WHERE %s `, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var part catalog.IndexPart
		var place int
		x := &catalog.Index{Origin: catalog.ByPerson}
		if err := scan(&ref.Schema, &ref.Table, &x.Name, &x.Unique, &part.Column, &part.Descending, &part.Length, &x.Method, &x.Comment, &x.Ignored, &x.Invalid, &place, &part.Expression); err != nil {
			return err
		}
		part.Expression = r.unqualified(ref.Schema, r.Family.Generated(part.Expression))
		if x.Method == "spatial" {
			part.Length = 0 // the engine's own measure
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		if have := t.Index(x.Name); have != nil {
			x = have
		} else {
			t.Indexes = append(t.Indexes, x)
			t.Stats.IndexOrder = append(t.Stats.IndexOrder, x.Name)
		}
		for len(x.Parts) < place {
			x.Parts = append(x.Parts, catalog.IndexPart{})
		}
		x.Parts[place-1] = part
		return nil
	})
	// Every unique index is a constraint here, and every constraint an index.
	for _, t := range r.tables {
		if _, end := traits.PeriodOf(t); end != "" { // the engine puts it into every key by itself
			for _, x := range t.Indexes {
				if n := len(x.Parts); x.Unique && n > 1 && x.Parts[n-1].Column == end {
					x.Parts = x.Parts[:n-1]
				}
			}
		}
		for _, x := range t.Indexes {
			switch {
			case x.Name == "PRIMARY":
				x.Origin = catalog.ByPrimaryKey
				t.PrimaryKey = &catalog.Key{Name: "PRIMARY", Columns: x.Columns(), Index: "PRIMARY"}
			case x.Unique && !slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Length > 0 || p.Column == "" }):
				x.Origin = catalog.ByUniqueKey
				t.UniqueKeys = append(t.UniqueKeys, &catalog.Key{Name: x.Name, Columns: x.Columns(), Index: x.Name})
			}
		}
	}
}

// version is major times 100 and minor: 1011.
func (r *reader) version() int {
	var major, minor int
	fmt.Sscanf(r.catalog.Engine.Version, "%d.%d", &major, &minor)
	return major*100 + minor
}

// unqualified takes the database's own name out of an expression, so that it
// holds in a database of any name.
func (r *reader) unqualified(schema, text string) string {
	if own := traits.Ident(schema) + "."; strings.Contains(text, own) {
		var b strings.Builder
		tokens := Engine{}.Dialect().Tokens(text)
		for i := 0; i < len(tokens); i++ {
			if tokens[i].Text == own[:len(own)-1] && i+1 < len(tokens) && tokens[i+1].Is(".") && (i == 0 || !tokens[i-1].Is(".")) {
				i++
				continue
			}
			b.WriteString(tokens[i].Text)
		}
		return b.String()
	}
	return text
}

// draws notes where a default takes numbers from a sequence.
func (r *reader) draws(table catalog.Ref, c *catalog.Column) {
	if lower := strings.ToLower(c.Default); !strings.HasPrefix(lower, "nextval(") && !strings.HasPrefix(lower, "next value for ") {
		return
	}
	for _, o := range r.names.In(Engine{}.Dialect(), c.Default, table.Schema) {
		if o.Kind == catalog.KindSequence {
			r.drawn(o, table, c, "default")
			c.Identity = catalog.IdentitySequence
		}
	}
}

func (r *reader) drawn(o catalog.ObjectRef, table catalog.Ref, c *catalog.Column, how string) {
	for _, q := range r.schemas[o.Schema].Sequences {
		if q.Name == o.Name {
			q.UsedBy = append(q.UsedBy, catalog.SequenceUse{ColumnRef: catalog.ColumnRef{Schema: table.Schema, Table: table.Table, Column: c.Name}, How: how})
			c.Sequence = &catalog.Ref{Schema: o.Schema, Table: o.Name}
		}
	}
}
