package oracle

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
)

// documented are the views of the dictionary, with their documented columns as far as they are of
// use here; each is there as DBA_ and as ALL_
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/static-data-dictionary-views.html).
var documented = map[string]string{
	"USERS":               "username varchar2, user_id number, oracle_maintained varchar2",
	"TABLES":              "owner varchar2, table_name varchar2, tablespace_name varchar2, cluster_name varchar2, iot_name varchar2, status varchar2, pct_free number, logging varchar2, num_rows number, blocks number, last_analyzed date, partitioned varchar2, iot_type varchar2, temporary varchar2, secondary varchar2, nested varchar2, duration varchar2, compression varchar2, compress_for varchar2, dropped varchar2, read_only varchar2",
	"EXTERNAL_TABLES":     "owner varchar2, table_name varchar2, type_name varchar2",
	"TAB_COLS":            "owner varchar2, table_name varchar2, column_name varchar2, data_type varchar2, data_type_owner varchar2, data_length number, data_precision number, data_scale number, nullable varchar2, column_id number, data_default long, char_length number, char_used varchar2, hidden_column varchar2, virtual_column varchar2, internal_column_id number, user_generated varchar2, default_on_null varchar2, identity_column varchar2, num_distinct number, num_nulls number, collation varchar2",
	"TAB_IDENTITY_COLS":   "owner varchar2, table_name varchar2, column_name varchar2, generation_type varchar2, sequence_name varchar2, identity_options varchar2",
	"INDEXES":             "owner varchar2, index_name varchar2, index_type varchar2, table_owner varchar2, table_name varchar2, uniqueness varchar2, compression varchar2, prefix_length number, tablespace_name varchar2, status varchar2, partitioned varchar2, visibility varchar2, generated varchar2, secondary varchar2, dropped varchar2, ityp_owner varchar2, ityp_name varchar2, funcidx_status varchar2",
	"IND_COLUMNS":         "index_owner varchar2, index_name varchar2, table_owner varchar2, table_name varchar2, column_name varchar2, column_position number, descend varchar2",
	"IND_EXPRESSIONS":     "index_owner varchar2, index_name varchar2, table_owner varchar2, table_name varchar2, column_expression long, column_position number",
	"PART_INDEXES":        "owner varchar2, index_name varchar2, table_name varchar2, partitioning_type varchar2, locality varchar2",
	"IND_PARTITIONS":      "index_owner varchar2, index_name varchar2, partition_name varchar2, status varchar2, partition_position number",
	"CONSTRAINTS":         "owner varchar2, constraint_name varchar2, constraint_type varchar2, table_name varchar2, search_condition long, r_owner varchar2, r_constraint_name varchar2, delete_rule varchar2, status varchar2, \"deferrable\" varchar2, \"deferred\" varchar2, validated varchar2, generated varchar2, rely varchar2, index_owner varchar2, index_name varchar2",
	"CONS_COLUMNS":        "owner varchar2, constraint_name varchar2, table_name varchar2, column_name varchar2, position number",
	"PART_TABLES":         "owner varchar2, table_name varchar2, partitioning_type varchar2, subpartitioning_type varchar2, partition_count number, interval varchar2, ref_ptn_constraint_name varchar2, autolist varchar2",
	"PART_KEY_COLUMNS":    "owner varchar2, name varchar2, object_type varchar2, column_name varchar2, column_position number",
	"SUBPART_KEY_COLUMNS": "owner varchar2, name varchar2, object_type varchar2, column_name varchar2, column_position number",
	"TAB_PARTITIONS":      "table_owner varchar2, table_name varchar2, partition_name varchar2, high_value long, partition_position number, tablespace_name varchar2, num_rows number",
	"TAB_SUBPARTITIONS":   "table_owner varchar2, table_name varchar2, partition_name varchar2, subpartition_name varchar2, high_value long, subpartition_position number, num_rows number",
	"SEQUENCES":           "sequence_owner varchar2, sequence_name varchar2, min_value number, max_value number, increment_by number, cycle_flag varchar2, order_flag varchar2, cache_size number, last_number number",
	"VIEWS":               "owner varchar2, view_name varchar2, text long, read_only varchar2",
	"MVIEWS":              "owner varchar2, mview_name varchar2, query long, refresh_mode varchar2, refresh_method varchar2",
	"TRIGGERS":            "owner varchar2, trigger_name varchar2, trigger_type varchar2, triggering_event varchar2, table_owner varchar2, base_object_type varchar2, table_name varchar2, status varchar2",
	"SOURCE":              "owner varchar2, name varchar2, type varchar2, line number, text varchar2",
	"SYNONYMS":            "owner varchar2, synonym_name varchar2, table_owner varchar2, table_name varchar2, db_link varchar2",
	"TAB_COMMENTS":        "owner varchar2, table_name varchar2, table_type varchar2, comments varchar2",
	"COL_COMMENTS":        "owner varchar2, table_name varchar2, column_name varchar2, comments varchar2",
	"DEPENDENCIES":        "owner varchar2, name varchar2, type varchar2, referenced_owner varchar2, referenced_name varchar2, referenced_type varchar2",
	"OBJECTS":             "owner varchar2, object_name varchar2, object_type varchar2, status varchar2, secondary varchar2",
	"MVIEW_LOGS":          "log_owner varchar2, master varchar2, log_table varchar2",
	"POLICIES":            "object_owner varchar2, object_name varchar2, policy_name varchar2, enable varchar2, sel varchar2",
}

// others are there once.
var others = []standin.View{
	{Name: "SYS.DUAL", Columns: "dummy varchar2"},
	{Name: "SYS.PRODUCT_COMPONENT_VERSION", Columns: "product varchar2, version varchar2, status varchar2"},
	{Name: "SYS.NLS_DATABASE_PARAMETERS", Columns: "parameter varchar2, value varchar2"},
	{Name: "SYS.USER_USERS", Columns: "username varchar2, default_tablespace varchar2"},
	{Name: "SYS.DBA_TAB_PRIVS", Columns: "owner varchar2, table_name varchar2, grantee varchar2, grantor varchar2, privilege varchar2, grantable varchar2"},
	{Name: "SYS.ALL_TAB_PRIVS", Columns: "table_schema varchar2, table_name varchar2, grantee varchar2, grantor varchar2, privilege varchar2, grantable varchar2"},
	{Name: "SYS.DBA_COL_PRIVS", Columns: "owner varchar2, table_name varchar2, column_name varchar2, grantee varchar2, grantor varchar2, privilege varchar2, grantable varchar2"},
	{Name: "SYS.ALL_COL_PRIVS", Columns: "table_schema varchar2, table_name varchar2, column_name varchar2, grantee varchar2, grantor varchar2, privilege varchar2, grantable varchar2"},
	{Name: "SYS.DBA_SEGMENTS", Columns: "owner varchar2, segment_name varchar2, segment_type varchar2, bytes number"},
	{Name: "SYS.USER_SEGMENTS", Columns: "segment_name varchar2, segment_type varchar2, bytes number"},
}

// usual is the tablespace of every account.
const usual = "USERS"

// Views are those of the dictionary.
func (d *Dictionary) Views() []standin.View {
	all := slices.Clone(others)
	for name, columns := range documented {
		for _, prefix := range []string{"DBA_", "ALL_"} {
			of := columns
			if name == "USERS" && prefix == "DBA_" {
				of += ", default_tablespace varchar2"
			}
			all = append(all, standin.View{Name: "SYS." + prefix + name, Columns: of})
		}
	}
	return all
}

// shower fills the views.
type shower struct {
	d    *Dictionary
	ctx  context.Context
	into func(view string, values ...any) error
	err  error
}

// add fills a view, as DBA_ and as ALL_.
func (sh *shower) add(view string, values ...any) {
	for _, prefix := range []string{"DBA_", "ALL_"} {
		sh.one(prefix+view, values...)
	}
}

func (sh *shower) one(view string, values ...any) {
	if sh.err == nil {
		sh.err = sh.into("SYS."+view, values...)
	}
}

func yes(is bool) string { return map[bool]string{true: "YES", false: "NO"}[is] }

func letter(is bool) string { return map[bool]string{true: "Y", false: "N"}[is] }

func null(text string) any {
	if text == "" {
		return nil
	}
	return text
}

// Show fills them, as the catalog is.
func (d *Dictionary) Show(ctx context.Context, add func(view string, values ...any) error) error {
	sh := &shower{d: d, ctx: ctx, into: add}
	sh.one("DUAL", "X")
	sh.one("PRODUCT_COMPONENT_VERSION", fmt.Sprintf(product, d.edition), version, "Production")
	sh.one("NLS_DATABASE_PARAMETERS", "NLS_CHARACTERSET", "AL32UTF8")
	sh.one("DBA_USERS", "SYS", 0, "Y", "SYSTEM")
	sh.one("ALL_USERS", "SYS", 0, "Y")
	for i, s := range d.Catalog.Schemas {
		sh.one("DBA_USERS", s.Name, 100+i, "N", usual)
		sh.one("ALL_USERS", s.Name, 100+i, "N")
		sh.one("USER_USERS", s.Name, usual)
		for _, t := range s.Tables {
			sh.table(t)
		}
		for _, v := range s.Views {
			sh.view(s, v)
		}
		for _, q := range s.Sequences {
			sh.sequence(s, q)
		}
		for _, f := range s.Routines {
			sh.object(s.Name, f.Name, strings.ToUpper(f.Kind))
			sh.source(s.Name, f.Name, strings.ToUpper(f.Kind), f.Definition)
			sh.depends(s.Name, f.Name, strings.ToUpper(f.Kind), f.Definition)
		}
		for _, o := range s.Objects {
			switch o.Kind {
			case "synonym":
				p := strings.Split(o.Definition, "\x00")
				sh.add("SYNONYMS", s.Name, o.Name, p[0], p[1], null(p[2]))
				sh.object(s.Name, o.Name, "SYNONYM")
			case "database link":
				sh.object(s.Name, o.Name, "DATABASE LINK")
			default:
				sh.object(s.Name, o.Name, "TYPE")
				sh.source(s.Name, o.Name, "TYPE", o.Definition)
			}
		}
	}
	for _, at := range d.more.logs {
		sh.add("MVIEW_LOGS", at.Schema, at.Table, logOf(at).Table)
		sh.container(at.Schema, logOf(at).Table)
		sh.add("TAB_COLS", at.Schema, logOf(at).Table, "SNAPTIME$$", "DATE", nil, 7, nil, nil, "Y", 1, nil, 0, nil, "NO", "NO", 1, "YES", "NO", "NO", nil, nil, nil)
	}
	for _, p := range d.more.policies {
		sh.add("POLICIES", p.on.Schema, p.on.Table, p.to, "YES", "YES")
	}
	for _, g := range d.more.grants {
		if g.column != "" {
			for _, view := range []string{"DBA_COL_PRIVS", "ALL_COL_PRIVS"} {
				sh.one(view, g.on.Schema, g.on.Table, g.column, g.to, g.on.Schema, g.what, g.option)
			}
			continue
		}
		for _, view := range []string{"DBA_TAB_PRIVS", "ALL_TAB_PRIVS"} {
			sh.one(view, g.on.Schema, g.on.Table, g.to, g.on.Schema, g.what, g.option)
		}
	}
	return sh.err
}

// object is a line of what is there, of whatever kind; one that could not be compiled says so.
func (sh *shower) object(owner, name, kind string) {
	status := "VALID"
	if slices.ContainsFunc(sh.d.more.compiled, func(b broken) bool { return b.owner == owner && b.name == name && b.kind == kind }) {
		status = "INVALID"
	}
	sh.add("OBJECTS", owner, name, kind, status, "N")
}

// source is a text by its lines.
func (sh *shower) source(owner, name, kind, text string) {
	for i, line := range strings.SplitAfter(text, "\n") {
		if line != "" {
			sh.add("SOURCE", owner, name, kind, i+1, line)
		}
	}
}

func (sh *shower) depends(owner, name, kind, text string) {
	for _, o := range (&Session{d: sh.d}).reads(text, owner) {
		sh.add("DEPENDENCIES", owner, name, kind, o.Schema, o.Name, strings.ToUpper(o.Kind))
	}
}

func (sh *shower) space(kind string, ref catalog.Ref) string {
	if space := sh.d.more.spaces[kind+" "+ref.String()]; space != "" {
		return space
	}
	return usual
}

func (sh *shower) table(t *catalog.Table) {
	sh.object(t.Schema, t.Name, "TABLE")
	iot, duration, compression, compressed, free, logging := any(nil), any(nil), "DISABLED", any(nil), any(10), "YES"
	space := any(sh.space("table", t.Ref()))
	if t.Has("index organized") {
		iot, space, free = "IOT", nil, 0
	}
	temporary := t.Has("temporary, rows of a session") || t.Has("temporary, rows of a transaction")
	if temporary {
		duration, space, logging = "SYS$TRANSACTION", nil, "NO"
		if t.Has("temporary, rows of a session") {
			duration = "SYS$SESSION"
		}
	}
	for _, o := range strings.Split(t.Storage, ", ") {
		word, value, _ := strings.Cut(o, " ")
		switch word {
		case "PCTFREE":
			free = value
		case "COMPRESS":
			compression, compressed = "ENABLED", value
		case "NOLOGGING":
			logging = "NO"
		}
	}
	var rows, analyzed any
	if t.Stats.Rows != nil {
		rows, analyzed = *t.Stats.Rows, "2026-11-20 02:00:00"
	}
	if t.PartitionBy != nil {
		space = nil
		if t.PartitionBy.Method != "reference" {
			logging = "YES"
		}
	}
	sh.add("TABLES", t.Schema, t.Name, space, nil, nil, "VALID", free, logging, rows, nil, analyzed, yes(t.PartitionBy != nil), iot, letter(temporary), "N", "NO", duration, compression, compressed, "NO", yes(t.Has("read only")))
	if t.Comment != "" {
		sh.add("TAB_COMMENTS", t.Schema, t.Name, "TABLE", t.Comment)
	}
	sh.segment(t.Schema, t.Name, "TABLE", t.Stats.Rows)
	sh.columns(t)
	for _, x := range t.Indexes {
		sh.index(t, x)
	}
	sh.constraints(t)
	sh.partitions(t)
	for _, g := range t.Triggers {
		sh.trigger(t.Ref(), "TABLE", g)
	}
}

// segment is what something takes, once its rows were counted.
func (sh *shower) segment(owner, name, kind string, rows *int64) {
	if rows == nil {
		return
	}
	bytes := (*rows*60/65536 + 1) * 65536
	sh.one("DBA_SEGMENTS", owner, name, kind, bytes)
	sh.one("USER_SEGMENTS", name, kind, bytes)
}

func (sh *shower) columns(t *catalog.Table) {
	for i, c := range t.Columns {
		d := describe(c.Type)
		def := c.Default
		if c.Generated != "" {
			def = c.Generated
		}
		numbered := c.Identity == catalog.IdentityAlways || c.Identity == catalog.IdentityByDefault
		if numbered {
			def = quoted(t.Schema) + "." + quoted(sh.d.more.counters[t.Ref()]) + ".nextval"
			sh.identity(t, c)
		}
		id := any(i + 1)
		if c.Invisible {
			id = nil
		}
		collation := any(nil)
		if c.Type.Family == catalog.Text {
			if collation = "USING_NLS_COMP"; c.Type.Collation != "" {
				collation = c.Type.Collation
			}
		}
		onNull := slices.Contains(c.Options, "default on null") || slices.Contains(c.Options, "identity on null")
		sh.add("TAB_COLS", t.Schema, t.Name, c.Name, d.name, nil, d.length, d.precision, d.scale, letter(c.Nullable), id, null(def), d.letters, d.used, yes(c.Invisible), yes(c.Generated != ""), i+1, "YES", yes(onNull), yes(numbered), nil, nil, collation)
		if c.Comment != "" {
			sh.add("COL_COMMENTS", t.Schema, t.Name, c.Name, c.Comment)
		}
	}
}

func (sh *shower) identity(t *catalog.Table, c *catalog.Column) {
	name := sh.d.more.counters[t.Ref()]
	kind := "BY DEFAULT"
	if c.Identity == catalog.IdentityAlways {
		kind = "ALWAYS"
	}
	for _, q := range sh.d.Catalog.Schema(t.Schema).Sequences {
		if q.Name == name {
			sh.add("TAB_IDENTITY_COLS", t.Schema, t.Name, c.Name, kind, name, fmt.Sprintf("START WITH: %d, INCREMENT BY: %d, MAX_VALUE: %s, MIN_VALUE: %d, CYCLE_FLAG: %s, CACHE_SIZE: %d, ORDER_FLAG: %s, SCALE_FLAG: N, EXTEND_FLAG: N, SESSION_FLAG: N, KEEP_VALUE: N",
				q.Start, q.Increment, most(q.Most), q.Least, letter(q.Cycle), q.Cache, letter(q.Type == "ORDER")))
		}
	}
}

func most(n int64) string {
	if n == sequenceMost {
		return strings.Repeat("9", 28)
	}
	return fmt.Sprint(n)
}

func (sh *shower) index(t *catalog.Table, x *catalog.Index) {
	kind := "NORMAL"
	expressions := slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Expression != "" || p.Descending })
	switch {
	case x.Clustered:
		kind = "IOT - TOP"
	case x.Method == "bitmap":
		kind = "BITMAP"
	}
	if strings.Contains(x.Storage, "REVERSE") {
		kind += "/REV"
	}
	if expressions {
		kind = "FUNCTION-BASED " + kind
	}
	compression, prefix := "DISABLED", any(nil)
	if _, rest, ok := strings.Cut(x.Storage, "COMPRESS "); ok {
		if strings.HasPrefix(rest, "ADVANCED") {
			compression = rest
		} else {
			compression, prefix = "ENABLED", rest
		}
	}
	local := strings.Contains(x.Storage, "LOCAL")
	status, unique, visible := "VALID", "NONUNIQUE", "VISIBLE"
	if x.Invalid {
		status = "UNUSABLE"
	}
	if local {
		status = "N/A"
	}
	if x.Unique {
		unique = "UNIQUE"
	}
	if x.Ignored {
		visible = "INVISIBLE"
	}
	space := any(sh.space("index", catalog.Ref{Schema: t.Schema, Table: x.Name}))
	if local {
		space = nil
	}
	funcidx := any(nil)
	if expressions {
		funcidx = "ENABLED"
	}
	sh.add("INDEXES", t.Schema, x.Name, kind, t.Schema, t.Name, unique, compression, prefix, space, status, yes(local), visible, "N", "N", "NO", nil, nil, funcidx)
	for i, p := range x.Parts {
		column, order := p.Column, "ASC"
		if p.Descending {
			order = "DESC"
		}
		if p.Expression != "" || p.Descending {
			column = fmt.Sprintf("SYS_NC%05d$", i+7)
			text := p.Expression
			if text == "" {
				text = quoted(p.Column)
			}
			sh.add("IND_EXPRESSIONS", t.Schema, x.Name, t.Schema, t.Name, text, i+1)
		}
		sh.add("IND_COLUMNS", t.Schema, x.Name, t.Schema, t.Name, column, i+1, order)
	}
	if local {
		sh.add("PART_INDEXES", t.Schema, x.Name, t.Name, strings.ToUpper(t.PartitionBy.Method), "LOCAL")
		for i, p := range t.Partitions {
			part := "USABLE"
			if x.Invalid {
				part = "UNUSABLE"
			}
			sh.add("IND_PARTITIONS", t.Schema, x.Name, p.Name, part, i+1)
		}
	}
	sh.segment(t.Schema, x.Name, "INDEX", t.Stats.Rows)
}

// constraint is one of a table.
func (sh *shower) constraint(t *catalog.Table, name, kind string, condition any, target [2]any, onDelete any, st states, index any, columns []string) {
	word := func(is bool, a, b string) string {
		if is {
			return a
		}
		return b
	}
	owner := any(nil)
	if index != nil {
		owner = t.Schema
	}
	rely := any(nil)
	if st.rely {
		rely = "RELY"
	}
	sh.add("CONSTRAINTS", t.Schema, name, kind, t.Name, condition, target[0], target[1], onDelete, word(st.off, "DISABLED", "ENABLED"), word(st.deferrable, "DEFERRABLE", "NOT DEFERRABLE"), word(st.deferred, "DEFERRED", "IMMEDIATE"),
		word(st.unchecked, "NOT VALIDATED", "VALIDATED"), word(sh.d.more.named[state{t.Ref(), name}], "GENERATED NAME", "USER NAME"), rely, owner, index)
	for i, c := range columns {
		position := any(i + 1)
		if kind == "C" {
			position = nil
		}
		sh.add("CONS_COLUMNS", t.Schema, name, t.Name, c, position)
	}
}

func (sh *shower) constraints(t *catalog.Table) {
	none := [2]any{}
	for _, c := range t.Columns {
		if name := sh.d.more.nulls[state{t.Ref(), c.Name}]; name != "" && !c.Nullable {
			sh.constraint(t, name, "C", quoted(c.Name)+" IS NOT NULL", none, nil, states{}, nil, []string{c.Name})
		}
	}
	for _, k := range t.Keys() {
		kind := "U"
		if k == t.PrimaryKey {
			kind = "P"
		}
		sh.constraint(t, k.Name, kind, nil, none, nil, states{deferrable: k.Deferrable, deferred: k.Deferred, rely: sh.d.more.states[state{t.Ref(), k.Name}].rely}, k.Index, k.Columns)
	}
	for _, o := range t.Objects {
		kind := "U"
		if o.Kind == "disabled primary" {
			kind = "P"
		}
		sh.constraint(t, o.Name, kind, nil, none, nil, sh.d.more.states[state{t.Ref(), o.Name}], nil, strings.Split(o.Definition, "\x00"))
	}
	for _, k := range t.Checks {
		st := sh.d.more.states[state{t.Ref(), k.Name}]
		st.off, st.unchecked = k.NotEnforced, k.NotValidated
		var columns []string
		for _, c := range t.Columns {
			if sh.d.Lexis().Mentions(k.Expression, c.Name) {
				columns = append(columns, c.Name)
			}
		}
		sh.constraint(t, k.Name, "C", k.Expression, none, nil, st, nil, columns)
	}
	for _, f := range t.ForeignKeys {
		target := [2]any{f.Target.Schema, ""}
		if to := sh.d.Catalog.Table(f.Target); to != nil {
			for _, k := range to.Keys() {
				if k.Index == f.TargetIndex {
					target[1] = k.Name
				}
			}
		}
		sh.constraint(t, f.Name, "R", nil, target, strings.ToUpper(string(f.OnDelete)), states{off: f.Disabled, unchecked: f.NotValidated, deferrable: f.Deferrable, deferred: f.Deferred, rely: sh.d.more.states[state{t.Ref(), f.Name}].rely}, nil, f.Columns)
	}
}

func (sh *shower) partitions(t *catalog.Table) {
	by := t.PartitionBy
	if by == nil {
		return
	}
	interval, reference, auto, sub := any(nil), any(nil), "NO", "NONE"
	switch {
	case by.Method == "reference":
		reference = by.Definition
	case by.Definition == "AUTOMATIC":
		auto = "YES"
	case by.Definition != "":
		interval = by.Definition
	}
	if by.Sub != nil {
		sub = strings.ToUpper(by.Sub.Method)
	}
	sh.add("PART_TABLES", t.Schema, t.Name, strings.ToUpper(by.Method), sub, len(t.Partitions), interval, reference, auto)
	for i, c := range by.Columns {
		sh.add("PART_KEY_COLUMNS", t.Schema, t.Name, "TABLE", c, i+1)
	}
	if by.Sub != nil {
		for i, c := range by.Sub.Columns {
			sh.add("SUBPART_KEY_COLUMNS", t.Schema, t.Name, "TABLE", c, i+1)
		}
	}
	for i, p := range t.Partitions {
		space := usual
		if len(p.Options) > 0 {
			space = p.Options[0]
		}
		var rows any
		if t.Stats.Rows != nil {
			n, err := sh.d.Count(sh.ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE %s", sh.d.Stored(t.Ref()), sh.d.condition(t, p.Name)))
			if err != nil && sh.err == nil {
				sh.err = err
			}
			rows = n
		}
		sh.add("TAB_PARTITIONS", t.Schema, t.Name, p.Name, null(p.Bounds), i+1, space, rows)
		for k, part := range p.Parts {
			sh.add("TAB_SUBPARTITIONS", t.Schema, t.Name, p.Name, part.Name, null(part.Bounds), k+1, nil)
		}
	}
}

// container is a table that the engine keeps rows in for itself.
func (sh *shower) container(owner, name string) {
	sh.object(owner, name, "TABLE")
	sh.add("TABLES", owner, name, usual, nil, nil, "VALID", 10, "YES", nil, nil, nil, "NO", nil, "N", "N", "NO", nil, "DISABLED", nil, "NO", "NO")
}

func (sh *shower) view(s *catalog.Schema, v *catalog.View) {
	if v.Materialised {
		sh.add("MVIEWS", s.Name, v.Name, v.Definition, v.Options[1], v.Options[0])
		sh.container(s.Name, v.Name)
	} else {
		sh.add("VIEWS", s.Name, v.Name, v.Definition, letter(slices.Contains(v.Options, "with read only")))
	}
	if v.Comment != "" {
		sh.add("TAB_COMMENTS", s.Name, v.Name, "VIEW", v.Comment)
	}
	names, err := sh.d.Open("SYS").Peek(sh.ctx, catalog.Ref{Schema: s.Name, Table: v.Name})
	if err != nil {
		for _, c := range v.Columns {
			names = append(names, c.Name)
		}
	}
	for i, n := range names {
		if len(v.Columns) == 0 {
			n = strings.ToUpper(n)
		}
		sh.add("TAB_COLS", s.Name, v.Name, n, "NUMBER", nil, 22, nil, nil, "Y", i+1, nil, 0, nil, "NO", "NO", i+1, "YES", "NO", "NO", nil, nil, nil)
		for _, c := range v.Columns {
			if c.Name == n && c.Comment != "" {
				sh.add("COL_COMMENTS", s.Name, v.Name, n, c.Comment)
			}
		}
	}
	kind := "VIEW"
	if v.Materialised {
		kind = "MATERIALIZED VIEW"
	}
	sh.object(s.Name, v.Name, kind)
	for _, o := range v.Reads {
		sh.add("DEPENDENCIES", s.Name, v.Name, kind, o.Schema, o.Name, strings.ToUpper(o.Kind))
	}
	for _, g := range v.Triggers {
		sh.trigger(catalog.Ref{Schema: s.Name, Table: v.Name}, "VIEW", g)
	}
}

func (sh *shower) sequence(s *catalog.Schema, q *catalog.Sequence) {
	next := q.Start
	if q.Last != nil {
		next = *q.Last + q.Increment
	}
	for ref, name := range sh.d.more.counters {
		if t := sh.d.Catalog.Table(ref); ref.Schema == s.Name && name == q.Name && t != nil && t.Stats.Counter != nil {
			next = *t.Stats.Counter
		}
	}
	sh.object(s.Name, q.Name, "SEQUENCE")
	sh.add("SEQUENCES", s.Name, q.Name, q.Least, most(q.Most), q.Increment, letter(q.Cycle), letter(q.Type == "ORDER"), q.Cache, next)
}

func (sh *shower) trigger(on catalog.Ref, object string, g *catalog.Trigger) {
	kind := strings.ToUpper(g.Timing)
	switch {
	case g.Timing == "instead of":
	case g.PerRow:
		kind += " EACH ROW"
	default:
		kind += " STATEMENT"
	}
	status := "ENABLED"
	if g.Enabled == "disabled" {
		status = "DISABLED"
	}
	sh.add("TRIGGERS", on.Schema, g.Name, kind, strings.ToUpper(strings.Join(g.Events, " OR ")), on.Schema, object, on.Table, status)
	sh.source(on.Schema, g.Name, "TRIGGER", g.Definition)
}
