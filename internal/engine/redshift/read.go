package redshift

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
)

// The questions of a survey: each is put once, whatever the size of the catalog. They order by the
// numbers of their columns, as a capture has to.
const (
	askServer = `SELECT version(), current_database()`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_STV_SLICES.html
	askSlices = `SELECT node, slice FROM stv_slices ORDER BY 2`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_SVV_TABLES.html
	askTables = `SELECT table_schema, table_name, table_type, remarks FROM svv_tables
  WHERE table_schema NOT IN ('pg_catalog', 'information_schema', 'pg_internal') ORDER BY 1, 2`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_SVV_REDSHIFT_COLUMNS.html; a boolean cannot be made a text
	askColumns = `SELECT schema_name, table_name, column_name, data_type, column_default, is_nullable, encoding, CASE WHEN distkey THEN 't' ELSE 'f' END AS distkey, sortkey, remarks, ordinal_position
  FROM svv_redshift_columns WHERE database_name = current_database() AND schema_name NOT IN ('pg_catalog', 'information_schema', 'pg_internal')
  ORDER BY 1, 2, 11`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_SVV_TABLE_INFO.html; tables without rows are not in it
	askFigures = `SELECT "schema", "table", table_id, diststyle, sortkey1, sortkey_num, size, tbl_rows, estimated_visible_rows, unsorted, stats_off FROM svv_table_info`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_STV_TBL_PERM.html
	askPermanent = `SELECT id, slice, rows FROM stv_tbl_perm WHERE temp = 0 ORDER BY 1, 2`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_STV_BLOCKLIST.html: blocks of 1 MB
	askBlocks = `SELECT tbl, col, count(*) AS blocks FROM stv_blocklist GROUP BY tbl, col ORDER BY 1, 2`
	// The catalog of keys is PostgreSQL's, whose lists are made texts by the leader node alone
	// (https://docs.aws.amazon.com/redshift/latest/dg/c_intro_catalog_views.html).
	askKeys = `SELECT n.nspname, c.relname, k.conname, k.contype, array_to_string(k.conkey, ',') AS conkey, fn.nspname AS target_schema, fc.relname AS target, array_to_string(k.confkey, ',') AS confkey
  FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid JOIN pg_namespace n ON n.oid = c.relnamespace
  LEFT JOIN pg_class fc ON fc.oid = k.confrelid LEFT JOIN pg_namespace fn ON fn.oid = fc.relnamespace
  WHERE k.contype IN ('p', 'u', 'f') ORDER BY 1, 2, 3`
	// https://docs.aws.amazon.com/redshift/latest/dg/r_PG_TABLE_DEF.html shows the search
	// path alone, and so the style of tables without rows is asked of pg_class_info
	// (https://docs.aws.amazon.com/redshift/latest/dg/r_PG_CLASS_INFO.html).
	askStyles = `SELECT n.nspname, c.relname, c.releffectivediststyle FROM pg_class_info c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind = 'r'`
	askViews  = `SELECT schemaname, viewname, definition FROM pg_views WHERE schemaname NOT IN ('pg_catalog', 'information_schema', 'pg_internal') ORDER BY 1, 2`
)

// Survey reads the catalog in eleven questions, within one transaction.
func (s *session) Survey(ctx context.Context) (*catalog.Catalog, error) {
	if err := s.Exec(ctx, begin); err != nil {
		return nil, err
	}
	c, err := read(ctx, live{engine.Live{Session: s}, s}, time.Now().UTC().Truncate(time.Second))
	if back := s.Rollback(context.WithoutCancel(ctx)); err == nil {
		err = back
	}
	if err != nil {
		return nil, err
	}
	return c, nil
}

const begin = "BEGIN READ ONLY"

// live is a connection that answers, which begins anew behind a question that the server refused.
type live struct {
	engine.Live
	s *session
}

// Put sends a question.
func (l live) Put(ctx context.Context, question string) ([]engine.Row, error) {
	rows, err := l.Live.Put(ctx, question)
	var said *engine.StatementError
	if !errors.As(err, &said) || ctx.Err() != nil {
		return rows, err
	}
	for _, sql := range []string{"ROLLBACK", begin} {
		if lost := l.s.Exec(ctx, sql); lost != nil {
			return nil, lost
		}
	}
	return nil, err
}

func read(ctx context.Context, from engine.Answers, at time.Time) (*catalog.Catalog, error) {
	r := &reader{ctx: ctx, answers: from, c: &catalog.Catalog{Engine: catalog.Engine{Name: "redshift"}, Surveyed: at},
		tables: map[catalog.Ref]*catalog.Table{}, byID: map[string]*catalog.Table{}}
	for _, step := range []func(){r.server, r.slices, r.readTables, r.columns, r.styles, r.figures, r.permanent, r.blocks, r.keys, r.views} {
		if step(); r.err != nil {
			return nil, r.err
		}
	}
	r.c.Sort()
	return r.c, nil
}

func (r *reader) server() {
	r.rows(askServer, func(v []string) {
		r.c.Engine.Version, r.c.Database = versionOf(v[0]), v[1]
		if strings.Contains(v[0], "simulated") {
			r.c.Settings = append(r.c.Settings, catalog.Setting{Name: "simulated", Value: "yes", Source: "version"})
		}
	})
}

// versionOf finds the engine's own version in what version() says:
// "PostgreSQL 8.0.2 on ..., Redshift 1.0.77467".
func versionOf(text string) string {
	if _, v, ok := strings.Cut(text, "Redshift "); ok {
		return strings.Fields(v)[0]
	}
	return text
}

type reader struct {
	ctx     context.Context
	answers engine.Answers
	c       *catalog.Catalog
	tables  map[catalog.Ref]*catalog.Table
	byID    map[string]*catalog.Table
	err     error
}

func (r *reader) rows(sql string, take func(v []string)) {
	if r.err == nil {
		r.err = engine.Each(r.ctx, r.answers, sql, func(w *capture.Fields) { take(engine.Row(w.Values).Or("")) })
	}
}

// optional asks what a user may not be let see; without it the figures stay unknown.
func (r *reader) optional(what, sql string, take func(v []string)) {
	var said *engine.StatementError
	if r.rows(sql, take); errors.As(r.err, &said) && r.ctx.Err() == nil {
		r.c.Gaps = append(r.c.Gaps, catalog.Gap{What: what, Reason: fmt.Sprintf("the cluster refused the question with error %s", said.Code), Figures: true})
		r.err = nil
	}
}

func (r *reader) schema(name string) *catalog.Schema {
	s := r.c.Schema(name)
	if s == nil {
		s = &catalog.Schema{Name: name}
		r.c.Schemas = append(r.c.Schemas, s)
	}
	return s
}

func (r *reader) slices() {
	nodes, n := map[string]bool{}, 0
	r.rows(askSlices, func(v []string) { nodes[v[0]] = true; n++ })
	r.c.Settings = append(r.c.Settings, catalog.Setting{Name: "nodes", Value: strconv.Itoa(len(nodes))}, catalog.Setting{Name: "slices", Value: strconv.Itoa(n)})
}

func (r *reader) readTables() {
	r.rows(askTables, func(v []string) {
		if v[2] != "BASE TABLE" && v[2] != "TABLE" {
			return
		}
		t := &catalog.Table{Schema: v[0], Name: v[1], Kind: catalog.Ordinary, Comment: v[3]}
		s := r.schema(v[0])
		s.Tables = append(s.Tables, t)
		r.tables[t.Ref()] = t
	})
}

func yes(v string) bool { return v == "t" || v == "true" || v == "1" || v == "YES" }

func (r *reader) columns() {
	type place struct {
		column   string
		position int
	}
	order := map[*catalog.Table][]place{}
	r.rows(askColumns, func(v []string) {
		t := r.tables[catalog.Ref{Schema: v[0], Table: v[1]}]
		if t == nil {
			return
		}
		c := &catalog.Column{Name: v[2], Type: typeOf(v[3]), Nullable: yes(v[5]), Encoding: strings.ToLower(v[6]), Comment: v[9]}
		if c.Encoding == "none" {
			c.Encoding = "raw"
		}
		if d := v[4]; strings.HasPrefix(strings.ToLower(d), `"identity"(`) || strings.HasPrefix(strings.ToLower(d), "default_identity(") {
			c.Identity = catalog.IdentityAlways
			if strings.HasPrefix(strings.ToLower(d), "default") {
				c.Identity = catalog.IdentityByDefault
			}
		} else {
			c.Default = d
		}
		t.Columns = append(t.Columns, c)
		if yes(v[7]) {
			t.Spread = &catalog.Spread{Style: "key", Column: c.Name}
		}
		// A number below none marks the columns of an interleaved order.
		if n, _ := strconv.Atoi(v[8]); n != 0 {
			order[t] = append(order[t], place{c.Name, n})
		}
	})
	for t, places := range order {
		k := &catalog.SortKey{Columns: make([]string, len(places))}
		for _, p := range places {
			if k.Interleaved = k.Interleaved || p.position < 0; p.position < 0 {
				p.position = -p.position
			}
			if p.position <= len(places) {
				k.Columns[p.position-1] = p.column
			}
		}
		t.SortKey = k
	}
}

// styles: 0 even, 1 key, 8 all, 10 to 12 chosen by the engine.
func (r *reader) styles() {
	r.optional("distribution styles", askStyles, func(v []string) {
		t := r.tables[catalog.Ref{Schema: v[0], Table: v[1]}]
		if t == nil || t.Spread != nil {
			return
		}
		switch v[2] {
		case "0":
			t.Spread = &catalog.Spread{Style: "even"}
		case "8":
			t.Spread = &catalog.Spread{Style: "all"}
		default:
			t.Spread = &catalog.Spread{Style: "auto"}
		}
	})
}

func (r *reader) figures() {
	r.optional("figures of tables", askFigures, func(v []string) {
		t := r.tables[catalog.Ref{Schema: v[0], Table: v[1]}]
		if t == nil {
			return
		}
		r.byID[v[2]] = t
		if style := strings.ToUpper(v[3]); t.Spread == nil || strings.HasPrefix(style, "AUTO") {
			switch {
			case strings.HasPrefix(style, "AUTO"):
				t.Spread = &catalog.Spread{Style: "auto"}
			case style == "ALL":
				t.Spread = &catalog.Spread{Style: "all"}
			case style == "EVEN":
				t.Spread = &catalog.Spread{Style: "even"}
			}
		}
		all, visible := number(v[7]), number(v[8])
		if visible == nil {
			visible = all
		}
		t.Stats.Rows = visible
		if all != nil && visible != nil {
			dead := max(0, *all-*visible)
			t.Stats.DeadRows = &dead
		}
		if size := number(v[6]); size != nil {
			bytes := *size << 20
			t.Stats.Bytes = &bytes
		}
		t.Stats.Unsorted, t.Stats.Stale = percent(v[9]), percent(v[10])
	})
}

// permanent: rows by slice. A copy on every node is on one slice of each.
func (r *reader) permanent() {
	r.optional("rows by slice", askPermanent, func(v []string) {
		t := r.byID[v[0]]
		n := number(v[2])
		if slice, err := strconv.Atoi(v[1]); t != nil && n != nil && err == nil && slice < r.c.Slices() {
			t.Stats.Slices = append(t.Stats.Slices, *n)
		}
	})
}

func (r *reader) blocks() {
	r.optional("blocks by column", askBlocks, func(v []string) {
		t := r.byID[v[0]]
		n := number(v[2])
		// Behind a table's own columns come three that the engine keeps.
		if col, err := strconv.Atoi(v[1]); t != nil && n != nil && err == nil && col < len(t.Columns) {
			bytes := *n << 20
			t.Columns[col].Stats.Bytes = &bytes
		}
	})
}

func (r *reader) keys() {
	r.rows(askKeys, func(v []string) {
		t := r.tables[catalog.Ref{Schema: v[0], Table: v[1]}]
		if t == nil {
			return
		}
		columns := named(t, v[4])
		switch v[3] {
		case "p":
			t.PrimaryKey = &catalog.Key{Name: v[2], Columns: columns}
		case "u":
			t.UniqueKeys = append(t.UniqueKeys, &catalog.Key{Name: v[2], Columns: columns})
		case "f":
			to := r.tables[catalog.Ref{Schema: v[5], Table: v[6]}]
			if to != nil {
				t.ForeignKeys = append(t.ForeignKeys, &catalog.ForeignKey{Name: v[2], Columns: columns, Target: to.Ref(), TargetColumns: named(to, v[7]), OnDelete: catalog.NoAction, OnUpdate: catalog.NoAction})
			}
		}
	})
}

// named are the columns of a list of numbers: 1,2.
func named(t *catalog.Table, numbers string) []string {
	var names []string
	for _, n := range strings.FieldsFunc(numbers, func(r rune) bool { return r < '0' || r > '9' }) {
		if i, err := strconv.Atoi(n); err == nil && i >= 1 && i <= len(t.Columns) {
			names = append(names, t.Columns[i-1].Name)
		}
	}
	return names
}

func (r *reader) views() {
	r.rows(askViews, func(v []string) {
		s := r.schema(v[0])
		s.Views = append(s.Views, &catalog.View{Name: v[1], Definition: v[2]})
	})
}

func number(v string) *int64 {
	f, err := strconv.ParseFloat(v, 64)
	if err != nil {
		return nil
	}
	n := int64(f)
	return &n
}

// percent is a share of a hundred.
func percent(v string) *float64 {
	f, err := strconv.ParseFloat(v, 64)
	if err != nil {
		return nil
	}
	f /= 100
	return &f
}

// typeOf reads a type as the views write it
// (https://docs.aws.amazon.com/redshift/latest/dg/c_Supported_data_types.html).
func typeOf(native string) catalog.Type {
	t := catalog.Type{Native: native, Family: catalog.Other}
	name, rest, _ := strings.Cut(native, "(")
	var a, b int
	fmt.Sscanf(rest, "%d,%d", &a, &b)
	switch strings.TrimSpace(strings.ToLower(name)) {
	case "smallint", "int2":
		t.Family, t.Bits = catalog.Integer, 16
	case "integer", "int", "int4":
		t.Family, t.Bits = catalog.Integer, 32
	case "bigint", "int8":
		t.Family, t.Bits = catalog.Integer, 64
	case "numeric", "decimal":
		t.Family, t.Precision, t.Scale = catalog.Decimal, a, b
	case "real", "float4":
		t.Family, t.Bits = catalog.Float, 32
	case "double precision", "float8", "float":
		t.Family, t.Bits = catalog.Float, 64
	case "boolean", "bool":
		t.Family = catalog.Boolean
	case "character varying", "varchar", "text":
		t.Family, t.Length = catalog.Text, a
	case "character", "char", "bpchar":
		t.Family, t.Length, t.Padded = catalog.Text, a, true
	case "date":
		t.Family = catalog.Date
	case "timestamp without time zone", "timestamp":
		t.Family = catalog.Timestamp
	case "timestamp with time zone", "timestamptz":
		t.Family, t.Zoned = catalog.Timestamp, true
	case "time without time zone", "time", "time with time zone", "timetz":
		t.Family = catalog.Time
	case "super":
		t.Family = catalog.JSON
	case "varbyte", "binary varying":
		t.Family, t.Length = catalog.Binary, a
	}
	return t
}
