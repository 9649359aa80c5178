package redshift

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
)

// Views are those that the Database Developer Guide documents, with their documented columns,
// as far as they are of use here. Others are not there, and a query for them says so.
func (c *Cluster) Views() []standin.View {
	return []standin.View{
		{Name: "pg_catalog.stv_slices", Columns: `node int, slice int, localslice int, type char(1)`},
		{Name: "pg_catalog.svv_tables", Columns: `table_catalog text, table_schema text, table_name text, table_type text, remarks text`},
		{Name: "pg_catalog.svv_redshift_columns", Columns: `database_name text, schema_name text, table_name text, column_name text, ordinal_position int, data_type text, column_default text, is_nullable text, encoding text, distkey boolean, sortkey int, column_acl text, remarks text`},
		{Name: "pg_catalog.svv_table_info", Columns: `database text, "schema" text, table_id int, "table" text, encoded text, diststyle text, sortkey1 text, max_varchar int, sortkey1_enc text, sortkey_num int, size bigint, pct_used numeric, empty bigint, unsorted numeric, stats_off numeric, tbl_rows numeric, skew_sortkey1 numeric, skew_rows numeric, estimated_visible_rows numeric, risk_event text, vacuum_sort_benefit numeric`},
		{Name: "pg_catalog.stv_tbl_perm", Columns: `slice int, id int, name text, rows bigint, sorted_rows bigint, "temp" int, db_id int, insert_pristine int, delete_pristine int, backup int, dist_style int, block_count int`},
		{Name: "pg_catalog.stv_blocklist", Columns: `slice int, col int, tbl int, blocknum int, num_values int, extended_limits int, minvalue bigint, maxvalue bigint, sb_pos int, pinned int, on_disk int, modified int, hdr_modified int, unsorted int, tombstone int, preferred_diskno int, temporary int, newblock int, num_readers int, flags int`},
		{Name: "pg_catalog.pg_namespace", Columns: `oid int, nspname text`},
		{Name: "pg_catalog.pg_class", Columns: `oid int, relname text, relnamespace int, relkind text, reltuples real`},
		{Name: "pg_catalog.pg_class_info", Columns: `oid int, relname text, relnamespace int, relkind text, reltuples real, releffectivediststyle int`},
		{Name: "pg_catalog.pg_constraint", Columns: `oid int, conname text, connamespace int, contype text, conrelid int, confrelid int, conkey text, confkey text`},
		{Name: "pg_catalog.pg_views", Columns: `schemaname text, viewname text, viewowner text, definition text`},
	}
}

// Of a column, how many bytes a value takes, and how well it is compressed.
const (
	blockBytes = 1 << 20
	compressed = 0.25
)

func width(col *catalog.Column) float64 {
	w := 8.0
	switch t := col.Type; {
	case strings.HasPrefix(t.Native, "smallint"):
		w = 2
	case strings.HasPrefix(t.Native, "integer"), t.Family == catalog.Date, strings.HasPrefix(t.Native, "real"):
		w = 4
	case t.Family == catalog.Boolean:
		w = 1
	case t.Family == catalog.Text:
		w = 20
	case t.Family == catalog.Decimal:
		w = 16
	}
	if col.Encoding != "raw" && col.Encoding != "none" {
		w *= compressed
	}
	return w
}

func (c *Cluster) id(ref catalog.Ref) int {
	if c.ids[ref] == 0 {
		c.ids[ref] = 100_001 + len(c.ids)
	}
	return c.ids[ref]
}

// Show fills the views.
func (c *Cluster) Show(ctx context.Context, add func(view string, values ...any) error) error {
	sh := &shower{c: c, ctx: ctx, into: add}
	for i := range c.slices {
		sh.add("stv_slices", i/(c.slices/c.nodes), i, i%(c.slices/c.nodes), "D")
	}
	constraints := 500_000
	for n, s := range c.Catalog.Schemas {
		sh.add("pg_namespace", 2000+n, s.Name)
		for _, t := range s.Tables {
			sh.table(t, 2000+n, &constraints)
		}
		for _, v := range s.Views {
			sh.add("pg_views", s.Name, v.Name, "demo", v.Definition)
		}
	}
	return sh.err
}

type shower struct {
	c    *Cluster
	ctx  context.Context
	into func(view string, values ...any) error
	err  error
}

func (sh *shower) add(view string, values ...any) {
	if sh.err == nil {
		sh.err = sh.into("pg_catalog."+view, values...)
	}
}

// table writes what the views say of one.
func (sh *shower) table(t *catalog.Table, space int, constraints *int) {
	c := sh.c
	n, err := c.bySlice(sh.ctx, t)
	if err != nil {
		sh.err = err
		return
	}
	id, dead := c.id(t.Ref()), c.wear[t.Ref()].dead
	style := map[string]int{"even": 0, "key": 1, "all": 8, "auto": 10}[t.Spread.Style]
	sh.add("svv_tables", c.Catalog.Database, t.Schema, t.Name, "BASE TABLE", null(t.Comment))
	sh.add("pg_class", id, t.Name, space, "r", n.rows)
	sh.add("pg_class_info", id, t.Name, space, "r", n.rows, style)
	var blocks int64
	for i, col := range t.Columns {
		def := null(col.Default)
		if col.Identity != catalog.NoIdentity {
			def = fmt.Sprintf(`"identity"(%d, 0, '1,1'::text)`, id)
		}
		sh.add("svv_redshift_columns", c.Catalog.Database, t.Schema, t.Name, col.Name, i+1, col.Type.Native, def,
			map[bool]string{true: "YES", false: "NO"}[col.Nullable], encodingName(col.Encoding), t.Spread.Column == col.Name, sorted(t, col.Name), nil, null(col.Comment))
		for s, rows := range n.slices {
			if rows == 0 {
				continue
			}
			size := int64(float64(rows+dead/int64(c.slices))*width(col)/blockBytes) + 1
			for b := range size {
				sh.add("stv_blocklist", s, i, id, b, rows/size, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil, nil)
			}
			blocks += size
		}
	}
	for s, rows := range n.slices {
		sh.add("stv_tbl_perm", s, id, t.Name, rows, max(0, rows-c.wear[t.Ref()].unsorted/int64(c.slices)), 0, nil, nil, nil, nil, nil, nil)
	}
	if n.rows+dead > 0 {
		sh.info(t, n, blocks)
	}
	key := func(name, kind string, columns []string, target *catalog.Table, keys []string) {
		var to, at any
		if target != nil {
			to, at = c.id(target.Ref()), numbers(keys, target)
		}
		*constraints++
		sh.add("pg_constraint", *constraints, name, space, kind, id, to, numbers(columns, t), at)
	}
	for _, k := range t.Keys() {
		key(k.Name, map[bool]string{true: "p", false: "u"}[k == t.PrimaryKey], k.Columns, nil, nil)
	}
	for _, f := range t.ForeignKeys {
		key(f.Name, "f", f.Columns, c.Catalog.Table(f.Target), f.TargetColumns)
	}
}

// sorted is the place of a column in the order of the rows; below none where it is interleaved.
func sorted(t *catalog.Table, column string) int {
	if t.SortKey == nil {
		return 0
	}
	place := slices.Index(t.SortKey.Columns, column) + 1
	if t.SortKey.Interleaved {
		return -place
	}
	return place
}

func numbers(names []string, of *catalog.Table) string {
	var list []string
	for _, name := range names {
		list = append(list, fmt.Sprint(slices.IndexFunc(of.Columns, func(c *catalog.Column) bool { return c.Name == name })+1))
	}
	return "{" + strings.Join(list, ",") + "}"
}

// info writes a table's line in svv_table_info, which leaves out tables without rows.
func (sh *shower) info(t *catalog.Table, n count, blocks int64) {
	style := strings.ToUpper(t.Spread.Style)
	switch t.Spread.Style {
	case "key":
		style = "KEY(" + t.Spread.Column + ")"
	case "auto":
		style = "AUTO(EVEN)"
	}
	w := sh.c.wear[t.Ref()]
	var first, unsorted, skew, encoding any
	keys := 0
	if k := t.SortKey; k != nil {
		keys = len(k.Columns)
		first = k.Columns[0]
		if k.Interleaved {
			first = "INTERLEAVED"
		}
		unsorted = 100 * float64(min(w.unsorted, n.rows)) / float64(max(1, n.rows))
		encoding = encodingName(t.Column(k.Columns[0]).Encoding)
	}
	if t.Spread.Style != "all" {
		skew = float64(slices.Max(n.slices)) / float64(max(1, slices.Min(n.slices)))
	}
	sh.add("svv_table_info", sh.c.Catalog.Database, t.Schema, sh.c.id(t.Ref()), t.Name, "Y", style, first, nil, encoding, keys, blocks, nil, nil, unsorted,
		min(100, 100*float64(w.changed)/float64(max(1, n.rows))), n.rows+w.dead, nil, skew, n.rows, nil, nil)
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
