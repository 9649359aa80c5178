package postgres

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"nexdal/internal/catalog"
)

// reader gathers the catalog of one database.
type reader struct {
	ctx        context.Context
	tx         pgx.Tx
	version    int // server_version_num
	catalog    *catalog.Catalog
	schemas    map[string]*catalog.Schema
	tables     map[uint32]*catalog.Table
	columns    map[uint32]map[int16]*catalog.Column // by table and attnum
	indexes    map[uint32]*catalog.Index
	collations map[*catalog.Column]uint32
	domains    map[uint32]domain
	err        error
}

// attempts is how often a survey starts over when a table vanishes under it.
const attempts = 3

// Survey reads the catalog in one read-only transaction, by a fixed number of
// questions (https://www.postgresql.org/docs/current/catalogs.html). The
// engine's own describing functions look at the present and not at the
// snapshot, so a table that is dropped meanwhile can make them fail; then the
// survey starts over.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	for i := 1; ; i++ {
		c, err := s.survey(ctx)
		var said *pgconn.PgError
		if errors.As(err, &said) && (said.Code == "XX000" || said.Code == "42P01" || said.Code == "42704") && i < attempts {
			continue
		}
		return c, s.wrap(ctx, err)
	}
}

func (s *session) survey(ctx context.Context) (*catalog.Catalog, error) {
	tx, err := s.conn.BeginTx(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly})
	if err != nil {
		return nil, err
	}
	defer tx.Rollback(context.WithoutCancel(ctx))
	statement, lock := s.options.StatementTimeout, s.options.LockTimeout
	if statement == 0 {
		statement = statementTimeout
	}
	if lock == 0 {
		lock = lockTimeout
	}
	r := &reader{ctx: ctx, tx: tx, catalog: &catalog.Catalog{Engine: catalog.Engine{Name: "postgres"}, Surveyed: time.Now().UTC()},
		schemas: map[string]*catalog.Schema{}, tables: map[uint32]*catalog.Table{}, columns: map[uint32]map[int16]*catalog.Column{},
		indexes: map[uint32]*catalog.Index{}, collations: map[*catalog.Column]uint32{}, domains: map[uint32]domain{}}
	// The search path decides which names the engine writes with their schema.
	_, r.err = tx.Exec(ctx, fmt.Sprintf("SET LOCAL statement_timeout = %d; SET LOCAL lock_timeout = %d; SET LOCAL search_path = pg_catalog",
		statement.Milliseconds(), lock.Milliseconds()), pgx.QueryExecModeSimpleProtocol)
	r.settings()
	r.schemata()
	r.relations()
	r.kinship()
	r.readDomains()
	r.readColumns()
	r.readIndexes()
	r.readConstraints()
	r.triggers()
	r.dependants()
	if r.err != nil {
		return nil, r.err
	}
	r.sumPartitions()
	r.catalog.Sort()
	return r.catalog, nil
}

// ask sends one query and hands each row to scan, unless something failed
// before.
func (r *reader) ask(query string, row func(scan func(...any) error) error) {
	if r.err != nil {
		return
	}
	rows, err := r.tx.Query(r.ctx, query)
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

func (r *reader) settings() {
	r.ask(`SELECT split_part(current_setting('server_version'), ' ', 1), current_setting('server_version_num')::int, current_database()::text`,
		func(scan func(...any) error) error {
			return scan(&r.catalog.Engine.Version, &r.version, &r.catalog.Database)
		})
	r.ask(`SELECT name, setting, source FROM pg_settings
		WHERE name IN ('session_replication_role', 'server_encoding', 'default_transaction_isolation')`,
		func(scan func(...any) error) error {
			var s catalog.Setting
			err := scan(&s.Name, &s.Value, &s.Source)
			r.catalog.Settings = append(r.catalog.Settings, s)
			return err
		})
}

// ours is the condition that a schema is neither the system's nor temporary.
const ours = `n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'`

func (r *reader) schemata() {
	r.ask(`SELECT n.nspname::text, has_schema_privilege(n.oid, 'USAGE') FROM pg_namespace n WHERE `+ours,
		func(scan func(...any) error) error {
			s := &catalog.Schema{}
			var usable bool
			if err := scan(&s.Name, &usable); err != nil {
				return err
			}
			if !usable {
				r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: s.Name, What: "rows",
					Reason: "no USAGE privilege on the schema: its structure was read, its data cannot be"})
			}
			r.schemas[s.Name] = s
			r.catalog.Schemas = append(r.catalog.Schemas, s)
			return nil
		})
}

// locked lists what somebody holds so strongly that even its size, or the text
// of its indexes, cannot be asked for without waiting.
const locked = `(SELECT DISTINCT relation FROM pg_locks WHERE mode = 'AccessExclusiveLock' AND granted AND pid <> pg_backend_pid()
	AND database = (SELECT oid FROM pg_database WHERE datname = current_database()))`

func (r *reader) relations() {
	r.ask(`SELECT c.oid, n.nspname::text, c.relname::text, c.relkind::text, c.relpersistence::text, c.relispartition,
			coalesce(pg_get_expr(c.relpartbound, c.oid), ''), coalesce(d.description, ''), coalesce(x.extname::text, ''),
			c.reltuples::float8, c.relpages, CASE WHEN c.relkind IN ('r', 'm') AND l.relation IS NULL THEN pg_relation_size(c.oid) END,
			CASE WHEN c.relkind IN ('v', 'm') THEN pg_get_viewdef(c.oid) END, c.reloftype <> 0, l.relation IS NOT NULL
		FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
			LEFT JOIN `+locked+` l ON l.relation = c.oid
			LEFT JOIN pg_description d ON d.classoid = 'pg_class'::regclass AND d.objoid = c.oid AND d.objsubid = 0
			LEFT JOIN pg_depend e ON e.classid = 'pg_class'::regclass AND e.objid = c.oid AND e.deptype = 'e'
			LEFT JOIN pg_extension x ON x.oid = e.refobjid AND e.refclassid = 'pg_extension'::regclass
		WHERE c.relkind IN ('r', 'p', 'f', 'v', 'm') AND c.relpersistence <> 't' AND `+ours,
		func(scan func(...any) error) error {
			var oid uint32
			var schema, name, kind, persistence, bounds, comment, extension string
			var isPartition, typed, held bool
			var rows float64
			var pages int32
			var size *int64
			var view *string
			if err := scan(&oid, &schema, &name, &kind, &persistence, &isPartition, &bounds, &comment, &extension, &rows, &pages, &size, &view, &typed, &held); err != nil {
				return err
			}
			s := r.schemas[schema]
			if s == nil {
				return nil
			}
			if kind == "v" || kind == "m" {
				v := &catalog.View{Name: name, Materialised: kind == "m", Comment: comment}
				if view != nil {
					v.Definition = *view
				}
				s.Views = append(s.Views, v)
				return nil
			}
			t := &catalog.Table{Schema: schema, Name: name, Comment: comment, Extension: extension, Bounds: bounds,
				Kind: map[string]catalog.TableKind{"r": catalog.Ordinary, "p": catalog.Partitioned, "f": catalog.Foreign}[kind]}
			if persistence == "u" {
				t.Options = append(t.Options, "unlogged")
			}
			if held {
				r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{Schema: schema, Table: name, What: "size and texts of indexes",
					Reason: "somebody holds the table so strongly that asking would have to wait"})
			}
			if typed {
				t.Options = append(t.Options, "of a type")
			}
			// Never vacuumed or analysed: -1 from version 14 on, 0 with no pages before.
			if rows > 0 || rows == 0 && (pages > 0 || r.version >= 140000) {
				n := int64(rows)
				t.Stats.Rows = &n
			}
			t.Stats.Bytes = size
			s.Tables = append(s.Tables, t)
			r.tables[oid] = t
			return nil
		})
}

// kinship reads which table is a part or an heir of which, and how the
// partitioned ones are cut up.
func (r *reader) kinship() {
	r.ask(`SELECT i.inhrelid, i.inhparent FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid WHERE c.relkind IN ('r', 'p', 'f') ORDER BY i.inhrelid, i.inhseqno`,
		func(scan func(...any) error) error {
			var child, parent uint32
			if err := scan(&child, &parent); err != nil {
				return err
			}
			t, p := r.tables[child], r.tables[parent]
			if t == nil || p == nil {
				return nil
			}
			ref := p.Ref()
			if p.Kind == catalog.Partitioned {
				t.PartitionOf = &ref
			} else {
				t.Inherits = append(t.Inherits, ref)
			}
			return nil
		})
}

func (r *reader) partitionKeys() {
	r.ask(`SELECT partrelid, partstrat::text, partattrs::int2[], pg_get_partkeydef(partrelid) FROM pg_partitioned_table`,
		func(scan func(...any) error) error {
			var oid uint32
			var method, definition string
			var columns []int16
			if err := scan(&oid, &method, &columns, &definition); err != nil {
				return err
			}
			t := r.tables[oid]
			if t == nil {
				return nil
			}
			t.PartitionBy = &catalog.PartitionKey{Definition: definition, Method: map[string]string{"r": "range", "l": "list", "h": "hash"}[method]}
			for _, n := range columns {
				if c := r.columns[oid][n]; c != nil {
					t.PartitionBy.Columns = append(t.PartitionBy.Columns, c.Name)
				}
			}
			return nil
		})
}

// sumPartitions gives each partitioned table the figures of its partitions
// together, once all of them are known.
func (r *reader) sumPartitions() {
	lookup := r.catalog.Lookup()
	var sum func(t *catalog.Table) catalog.TableStats
	sum = func(t *catalog.Table) catalog.TableStats {
		if t.Kind != catalog.Partitioned {
			return t.Stats
		}
		var rows, bytes, index int64
		known := true
		for _, p := range lookup.Partitions(t.Ref()) {
			s := sum(p)
			known = known && s.Rows != nil
			add(&rows, s.Rows)
			add(&bytes, s.Bytes)
			add(&index, s.IndexBytes)
		}
		t.Stats = catalog.TableStats{Bytes: &bytes, IndexBytes: &index}
		if known {
			t.Stats.Rows = &rows
		}
		return t.Stats
	}
	for _, t := range r.catalog.Tables() {
		if t.PartitionOf == nil {
			sum(t)
		}
	}
}

func add(sum *int64, more *int64) {
	if more != nil {
		*sum += *more
	}
}
