package standin

import (
	"context"
	"fmt"
	"strings"
)

// systemViews are those that the Database Developer Guide documents, with their
// documented columns, as far as they are of use here. Others are not there, and a query
// for them says so.
var systemViews = []string{
	`CREATE TABLE pg_catalog.stv_slices (node int, slice int, localslice int, type char(1))`,
	`CREATE TABLE pg_catalog.svv_tables (table_catalog text, table_schema text, table_name text, table_type text, remarks text)`,
	`CREATE TABLE pg_catalog.svv_redshift_columns (database_name text, schema_name text, table_name text, column_name text, ordinal_position int, data_type text, column_default text, is_nullable text, encoding text, distkey text, sortkey int, column_acl text, remarks text)`,
	`CREATE TABLE pg_catalog.svv_table_info (database text, "schema" text, table_id int, "table" text, encoded text, diststyle text, sortkey1 text, max_varchar int, sortkey1_enc text, sortkey_num int, size bigint, pct_used numeric, empty bigint, unsorted numeric, stats_off numeric, tbl_rows numeric, skew_sortkey1 numeric, skew_rows numeric, estimated_visible_rows numeric, risk_event text, vacuum_sort_benefit numeric)`,
	`CREATE TABLE pg_catalog.stv_tbl_perm (slice int, id int, name text, rows bigint, sorted_rows bigint, "temp" int, db_id int, insert_pristine int, delete_pristine int, backup int, dist_style int, block_count int)`,
	`CREATE TABLE pg_catalog.stv_blocklist (slice int, col int, tbl int, blocknum int, num_values int, extended_limits int, minvalue bigint, maxvalue bigint, sb_pos int, pinned int, on_disk int, modified int, hdr_modified int, unsorted int, tombstone int, preferred_diskno int, temporary int, newblock int, num_readers int, flags int)`,
	`CREATE TABLE pg_catalog.pg_namespace (oid int, nspname text)`,
	`CREATE TABLE pg_catalog.pg_class (oid int, relname text, relnamespace int, relkind text, reltuples real)`,
	`CREATE TABLE pg_catalog.pg_class_info (oid int, relname text, relnamespace int, relkind text, reltuples real, releffectivediststyle int)`,
	`CREATE TABLE pg_catalog.pg_constraint (oid int, conname text, connamespace int, contype text, conrelid int, confrelid int, conkey text, confkey text)`,
	`CREATE TABLE pg_catalog.pg_views (schemaname text, viewname text, viewowner text, definition text)`,
}

var systemNames = []string{"stv_slices", "svv_tables", "svv_redshift_columns", "svv_table_info", "stv_tbl_perm", "stv_blocklist", "pg_namespace", "pg_class", "pg_class_info", "pg_constraint", "pg_views"}

// Of a column, how many bytes a value takes, and how well it is compressed.
const (
	blockBytes = 1 << 20
	compressed = 0.25
)

func (col *column) width() float64 {
	kind := strings.ToLower(col.kind)
	w := 8.0
	switch {
	case strings.HasPrefix(kind, "smallint"):
		w = 2
	case strings.HasPrefix(kind, "int"), strings.HasPrefix(kind, "date"), strings.HasPrefix(kind, "real"):
		w = 4
	case strings.HasPrefix(kind, "bool"):
		w = 1
	case strings.Contains(kind, "char"), kind == "text":
		w = 20
	case strings.HasPrefix(kind, "num"), strings.HasPrefix(kind, "dec"):
		w = 16
	}
	if col.encoding != "raw" && col.encoding != "none" {
		w *= compressed
	}
	return w
}

// refresh brings the system views up to date.
func (c *Cluster) refresh(ctx context.Context) error {
	do := func(sql string, args ...any) error {
		_, err := c.db.ExecContext(ctx, sql, args...)
		return err
	}
	for _, name := range systemNames {
		if err := do("DELETE FROM pg_catalog." + name); err != nil {
			return err
		}
	}
	for i := range c.slices {
		if err := do("INSERT INTO pg_catalog.stv_slices VALUES (?, ?, ?, 'D')", i/(c.slices/c.nodes), i, i%(c.slices/c.nodes)); err != nil {
			return err
		}
	}
	spaces := map[string]int{}
	space := func(name string) (int, error) {
		if id, ok := spaces[name]; ok {
			return id, nil
		}
		spaces[name] = 2000 + len(spaces)
		return spaces[name], do("INSERT INTO pg_catalog.pg_namespace VALUES (?, ?)", spaces[name], name)
	}
	for _, t := range c.tables {
		ns, err := space(t.schema)
		if err != nil {
			return err
		}
		if err := c.show(ctx, t, ns); err != nil {
			return err
		}
	}
	for _, v := range c.views {
		if err := do("INSERT INTO pg_catalog.pg_views VALUES (?, ?, 'demo', ?)", v.schema, v.name, v.definition); err != nil {
			return err
		}
	}
	return nil
}

// show writes what the views say of one table.
func (c *Cluster) show(ctx context.Context, t *table, space int) error {
	do := func(sql string, args ...any) error {
		_, err := c.db.ExecContext(ctx, sql, args...)
		return err
	}
	counts, rows, err := c.bySlice(ctx, t)
	if err != nil {
		return err
	}
	style := map[string]int{"even": 0, "key": 1, "all": 8, "auto": 10}[t.style]
	steps := []func() error{
		func() error {
			return do("INSERT INTO pg_catalog.svv_tables VALUES (?, ?, ?, 'BASE TABLE', ?)", c.database, t.schema, t.name, null(t.comment))
		},
		func() error {
			return do("INSERT INTO pg_catalog.pg_class VALUES (?, ?, ?, 'r', ?)", t.id, t.name, space, rows)
		},
		func() error {
			return do("INSERT INTO pg_catalog.pg_class_info VALUES (?, ?, ?, 'r', ?, ?)", t.id, t.name, space, rows, style)
		},
	}
	var blocks int64
	for i, col := range t.columns {
		order := 0
		for k, name := range t.sortkey {
			if name == col.name {
				if order = k + 1; t.interleaved {
					order = -order
				}
			}
		}
		def := null(col.def)
		if col.identity {
			def = fmt.Sprintf(`"identity"(%d, 0, '1,1'::text)`, t.id)
		}
		steps = append(steps, func() error {
			return do("INSERT INTO pg_catalog.svv_redshift_columns VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, NULL, ?)", c.database, t.schema, t.name, col.name, i+1, col.kind, def,
				map[bool]string{true: "NO", false: "YES"}[col.notNull], encodingName(col.encoding), map[bool]string{true: "t", false: "f"}[t.style == "key" && t.distkey == col.name], order, null(col.comment))
		})
		for s, n := range counts {
			size := int64(float64(n+t.dead/int64(c.slices))*col.width()/blockBytes) + 1
			if n == 0 {
				continue
			}
			for b := range size {
				steps = append(steps, func() error {
					return do("INSERT INTO pg_catalog.stv_blocklist (slice, col, tbl, blocknum, num_values) VALUES (?, ?, ?, ?, ?)", s, i, t.id, b, n/size)
				})
			}
			blocks += size
		}
	}
	for s, n := range counts {
		steps = append(steps, func() error {
			return do("INSERT INTO pg_catalog.stv_tbl_perm (slice, id, name, rows, sorted_rows, temp) VALUES (?, ?, ?, ?, ?, 0)", s, t.id, t.name, n, max(0, n-t.unsorted/int64(c.slices)))
		})
	}
	if rows+t.dead > 0 {
		steps = append(steps, func() error { return c.info(ctx, t, counts, rows, blocks) })
	}
	numbers := func(names []string, of *table) string {
		var list []string
		for _, name := range names {
			for i, col := range of.columns {
				if col.name == name {
					list = append(list, fmt.Sprint(i+1))
				}
			}
		}
		return "{" + strings.Join(list, ",") + "}"
	}
	for _, k := range t.constraints {
		var target, keys any
		if k.refers != nil {
			target, keys = k.refers.id, numbers(k.target, k.refers)
		}
		steps = append(steps, func() error {
			return do("INSERT INTO pg_catalog.pg_constraint VALUES (?, ?, ?, ?, ?, ?, ?, ?)", k.id, k.name, space, k.kind, t.id, target, numbers(k.columns, t), keys)
		})
	}
	for _, step := range steps {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// info writes a table's line in svv_table_info, which leaves out tables without rows.
func (c *Cluster) info(ctx context.Context, t *table, counts []int64, rows, blocks int64) error {
	least, most := counts[0], counts[0]
	for _, n := range counts {
		least, most = min(least, n), max(most, n)
	}
	style := strings.ToUpper(t.style)
	switch t.style {
	case "key":
		style = "KEY(" + t.distkey + ")"
	case "auto":
		style = "AUTO(EVEN)"
	}
	var first, unsorted, skew, encoding any
	if len(t.sortkey) > 0 {
		first = t.sortkey[0]
		if t.interleaved {
			first = "INTERLEAVED"
		}
		unsorted = 100 * float64(min(t.unsorted, rows)) / float64(max(1, rows))
		encoding = encodingName(t.column(t.sortkey[0]).encoding)
	}
	if t.style != "all" {
		skew = float64(most) / float64(max(1, least))
	}
	_, err := c.db.ExecContext(ctx, `INSERT INTO pg_catalog.svv_table_info (database, "schema", table_id, "table", encoded, diststyle, sortkey1, sortkey1_enc, sortkey_num, size, unsorted, stats_off, tbl_rows, skew_rows, estimated_visible_rows)
		VALUES (?, ?, ?, ?, 'Y', ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, c.database, t.schema, t.id, t.name, style, first, encoding, len(t.sortkey), blocks, unsorted,
		min(100, 100*float64(t.changed)/float64(max(1, rows))), rows+t.dead, skew, rows)
	return err
}

func encodingName(e string) string {
	if e == "raw" {
		return "none"
	}
	return e
}

func null(s string) any {
	if s == "" {
		return nil
	}
	return s
}
