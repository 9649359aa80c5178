package mariadb

import (
	"cmp"
	"context"
	"database/sql"
	"fmt"
	"slices"
	"strings"
	"time"

	"nexdal/internal/catalog"
)

// reader gathers the catalog of one database, or of all.
type reader struct {
	ctx     context.Context
	conn    *sql.Conn
	catalog *catalog.Catalog
	schemas map[string]*catalog.Schema
	tables  map[catalog.Ref]*catalog.Table
	only    string
	err     error
}

// Survey reads the views of information_schema
// (https://mariadb.com/kb/en/information-schema-tables/), each once and
// filtered by schema; they are joined here, since the engine joins them
// slowly.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	if _, err := s.conn.ExecContext(ctx, "START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY"); err != nil {
		return nil, s.wrap(ctx, "", err)
	}
	defer s.conn.ExecContext(context.WithoutCancel(ctx), "ROLLBACK")
	r := &reader{ctx: ctx, conn: s.conn, only: s.database, schemas: map[string]*catalog.Schema{}, tables: map[catalog.Ref]*catalog.Table{},
		catalog: &catalog.Catalog{Engine: catalog.Engine{Name: "mariadb"}, Database: cmp.Or(s.database, "all databases"), Surveyed: time.Now().UTC()}}
	r.settings()
	r.schemata()
	r.relations()
	r.columns()
	r.indexes()
	r.references()
	r.checks()
	r.partitions()
	r.triggers()
	if r.err != nil {
		return nil, s.wrap(ctx, "", r.err)
	}
	for _, t := range r.tables {
		nameOrigins(t)
	}
	r.catalog.Sort()
	return r.catalog, nil
}

// ask sends one query and hands each row to scan, unless something failed
// before. %s in the query stands for the condition on the named column.
func (r *reader) ask(query, column string, row func(scan func(...any) error) error) {
	if r.err != nil {
		return
	}
	if column != "" {
		query = fmt.Sprintf(query, r.ours(column))
	}
	rows, err := r.conn.QueryContext(r.ctx, query)
	if err != nil {
		r.err = err
		return
	}
	defer rows.Close()
	for rows.Next() {
		if r.err = row(rows.Scan); r.err != nil {
			return
		}
	}
	r.err = rows.Err()
}

func (r *reader) ours(column string) string {
	if r.only != "" {
		return column + " = '" + strings.NewReplacer("'", "''", `\`, `\\`).Replace(r.only) + "'"
	}
	return column + " NOT IN ('information_schema', 'mysql', 'performance_schema', 'sys')"
}

func (r *reader) settings() {
	r.ask(`SELECT VERSION(), @@GLOBAL.foreign_key_checks, @@GLOBAL.character_set_server, @@GLOBAL.tx_isolation, @@GLOBAL.default_storage_engine`, "",
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
				{Name: "tx_isolation", Value: isolation, Source: "server"},
				{Name: "default_storage_engine", Value: storage, Source: "server"},
			}
			return nil
		})
}

func (r *reader) schemata() {
	r.ask(`SELECT SCHEMA_NAME FROM information_schema.SCHEMATA WHERE %s`, "SCHEMA_NAME", func(scan func(...any) error) error {
		s := &catalog.Schema{}
		err := scan(&s.Name)
		r.schemas[s.Name] = s
		r.catalog.Schemas = append(r.catalog.Schemas, s)
		return err
	})
}

func (r *reader) relations() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, TABLE_TYPE, COALESCE(ENGINE, ''), TABLE_ROWS, DATA_LENGTH, INDEX_LENGTH, COALESCE(TABLE_COMMENT, '')
		FROM information_schema.TABLES WHERE %s`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var schema, kind, storage string
		t := &catalog.Table{Kind: catalog.Ordinary}
		if err := scan(&schema, &t.Name, &kind, &storage, &t.Stats.Rows, &t.Stats.Bytes, &t.Stats.IndexBytes, &t.Comment); err != nil {
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
				r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: schema, Table: t.Name, What: "table", Reason: t.Comment})
				return nil
			}
			if !strings.EqualFold(storage, "InnoDB") {
				t.Options = append(t.Options, "engine "+storage)
			}
			if kind == "SYSTEM VERSIONED" {
				t.Options = append(t.Options, "system versioned")
			}
			s.Tables = append(s.Tables, t)
			r.tables[t.Ref()] = t
		case "VIEW":
			s.Views = append(s.Views, &catalog.View{Name: t.Name})
		}
		return nil
	})
	views := map[catalog.Ref]string{}
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, VIEW_DEFINITION FROM information_schema.VIEWS WHERE %s`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var text string
		err := scan(&ref.Schema, &ref.Table, &text)
		views[ref] = text
		return err
	})
	for _, s := range r.catalog.Schemas {
		for _, v := range s.Views {
			v.Definition = views[catalog.Ref{Schema: s.Name, Table: v.Name}]
		}
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
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		c.Type = typeOf(data, native, collation, length, precision, scale)
		if value != nil && *value != "NULL" {
			c.Default = *value
		}
		extra = strings.ToLower(extra)
		if strings.Contains(extra, "auto_increment") {
			c.Identity = catalog.IdentityCounter
		}
		c.Stored = strings.Contains(extra, "stored generated")
		t.Columns = append(t.Columns, c)
		return nil
	})
}

func (r *reader) indexes() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, INDEX_NAME, NON_UNIQUE = 0, COALESCE(COLUMN_NAME, ''), COALESCE(COLLATION, 'A') = 'D', COALESCE(SUB_PART, 0), LOWER(INDEX_TYPE), INDEX_COMMENT
		FROM information_schema.STATISTICS WHERE %s ORDER BY TABLE_SCHEMA, TABLE_NAME, INDEX_NAME, SEQ_IN_INDEX`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var part catalog.IndexPart
		x := &catalog.Index{Origin: catalog.ByPerson}
		if err := scan(&ref.Schema, &ref.Table, &x.Name, &x.Unique, &part.Column, &part.Descending, &part.Length, &x.Method, &x.Comment); err != nil {
			return err
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		if n := len(t.Indexes); n > 0 && t.Indexes[n-1].Name == x.Name {
			x = t.Indexes[n-1]
		} else {
			t.Indexes = append(t.Indexes, x)
		}
		x.Parts = append(x.Parts, part)
		return nil
	})
	// Every unique index is a constraint here, and every constraint an index.
	for _, t := range r.tables {
		for _, x := range t.Indexes {
			switch {
			case x.Name == "PRIMARY":
				x.Origin = catalog.ByPrimaryKey
				t.PrimaryKey = &catalog.Key{Name: "PRIMARY", Columns: x.Columns(), Index: "PRIMARY"}
			case x.Unique && !slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Length > 0 }):
				x.Origin = catalog.ByUniqueKey
				t.UniqueKeys = append(t.UniqueKeys, &catalog.Key{Name: x.Name, Columns: x.Columns(), Index: x.Name})
			}
		}
	}
}
