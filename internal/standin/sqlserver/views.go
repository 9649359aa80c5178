package sqlserver

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
)

// Views are those of the manual, with their documented columns, as far as they are of use here
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/).
func (d *database) Views() []standin.View {
	const object = "object_id int, name nvarchar, schema_id int, principal_id int, parent_object_id int, type nvarchar, type_desc nvarchar, create_date datetime, modify_date datetime, is_ms_shipped bit"
	return []standin.View{
		{Name: "sys.databases", Columns: "name nvarchar, database_id int, collation_name nvarchar, compatibility_level int, is_read_committed_snapshot_on bit, snapshot_isolation_state int"},
		{Name: "sys.schemas", Columns: "schema_id int, name nvarchar, principal_id int"},
		{Name: "sys.database_principals", Columns: "principal_id int, name nvarchar, type nvarchar"},
		{Name: "sys.types", Columns: "user_type_id int, system_type_id int, schema_id int, name nvarchar, max_length int, precision int, scale int, collation_name nvarchar, is_nullable bit, is_user_defined bit, is_table_type bit, is_assembly_type bit"},
		{Name: "sys.objects", Columns: object},
		{Name: "sys.tables", Columns: object + ", is_memory_optimized bit, temporal_type int, is_external bit, is_filetable bit, is_node bit, is_edge bit, ledger_type int, is_replicated bit, is_tracked_by_cdc bit"},
		{Name: "sys.columns", Columns: "object_id int, column_id int, name nvarchar, system_type_id int, user_type_id int, max_length int, precision int, scale int, collation_name nvarchar, is_nullable bit, is_identity bit, is_computed bit, is_sparse bit, is_column_set bit, is_rowguidcol bit, is_filestream bit, is_hidden bit, is_masked bit, generated_always_type int, default_object_id int, rule_object_id int, encryption_type_desc nvarchar, xml_collection_id int"},
		{Name: "sys.identity_columns", Columns: "object_id int, column_id int, name nvarchar, seed_value bigint, increment_value bigint, last_value bigint, is_not_for_replication bit"},
		{Name: "sys.computed_columns", Columns: "object_id int, column_id int, name nvarchar, definition nvarchar, is_persisted bit"},
		{Name: "sys.default_constraints", Columns: object + ", parent_column_id int, definition nvarchar, is_system_named bit"},
		{Name: "sys.check_constraints", Columns: object + ", parent_column_id int, definition nvarchar, is_disabled bit, is_not_trusted bit, is_not_for_replication bit, is_system_named bit"},
		{Name: "sys.key_constraints", Columns: object + ", unique_index_id int, is_system_named bit"},
		{Name: "sys.indexes", Columns: "object_id int, index_id int, name nvarchar, type int, type_desc nvarchar, is_unique bit, data_space_id int, ignore_dup_key bit, is_primary_key bit, is_unique_constraint bit, fill_factor int, is_padded bit, is_disabled bit, is_hypothetical bit, allow_row_locks bit, allow_page_locks bit, has_filter bit, filter_definition nvarchar"},
		{Name: "sys.index_columns", Columns: "object_id int, index_id int, index_column_id int, column_id int, key_ordinal int, partition_ordinal int, is_descending_key bit, is_included_column bit"},
		{Name: "sys.xml_indexes", Columns: "object_id int, index_id int, using_xml_index_id int, secondary_type_desc nvarchar, xml_index_type int"},
		{Name: "sys.spatial_index_tessellations", Columns: "object_id int, index_id int, tessellation_scheme nvarchar, bounding_box_xmin float, bounding_box_ymin float, bounding_box_xmax float, bounding_box_ymax float, level_1_grid_desc nvarchar, level_2_grid_desc nvarchar, level_3_grid_desc nvarchar, level_4_grid_desc nvarchar, cells_per_object int"},
		{Name: "sys.fulltext_indexes", Columns: "object_id int, unique_index_id int"},
		{Name: "sys.fulltext_index_columns", Columns: "object_id int, column_id int"},
		{Name: "sys.change_tracking_tables", Columns: "object_id int"},
		{Name: "sys.security_policies", Columns: object + ", is_enabled bit"},
		{Name: "sys.security_predicates", Columns: "object_id int, security_predicate_id int, target_object_id int, predicate_definition nvarchar, predicate_type_desc nvarchar"},
		{Name: "sys.masked_columns", Columns: "object_id int, column_id int, masking_function nvarchar"},
		{Name: "sys.xml_schema_collections", Columns: "xml_collection_id int, name nvarchar"},
		{Name: "sys.foreign_keys", Columns: object + ", referenced_object_id int, key_index_id int, is_disabled bit, is_not_for_replication bit, is_not_trusted bit, delete_referential_action int, update_referential_action int, is_system_named bit"},
		{Name: "sys.foreign_key_columns", Columns: "constraint_object_id int, constraint_column_id int, parent_object_id int, parent_column_id int, referenced_object_id int, referenced_column_id int"},
		{Name: "sys.partitions", Columns: "partition_id int, object_id int, index_id int, partition_number int, rows bigint, data_compression_desc nvarchar"},
		{Name: "sys.partition_functions", Columns: "name nvarchar, function_id int, type nvarchar, type_desc nvarchar, fanout int, boundary_value_on_right bit"},
		{Name: "sys.partition_parameters", Columns: "function_id int, parameter_id int, system_type_id int, max_length int, precision int, scale int"},
		{Name: "sys.partition_range_values", Columns: "function_id int, boundary_id int, parameter_id int, value nvarchar"},
		{Name: "sys.index_resumable_operations", Columns: "object_id int, index_id int, name nvarchar, state tinyint"},
		{Name: "sys.partition_schemes", Columns: "name nvarchar, data_space_id int, function_id int"},
		{Name: "sys.data_spaces", Columns: "name nvarchar, data_space_id int, type nvarchar, is_default bit"},
		{Name: "sys.destination_data_spaces", Columns: "partition_scheme_id int, destination_id int, data_space_id int"},
		{Name: "sys.sequences", Columns: object + ", start_value bigint, increment bigint, minimum_value bigint, maximum_value bigint, is_cycling bit, is_cached bit, cache_size bigint, system_type_id int, user_type_id int, precision int, current_value bigint, last_used_value bigint"},
		{Name: "sys.sql_modules", Columns: "object_id int, definition nvarchar, uses_ansi_nulls bit, uses_quoted_identifier bit, is_schema_bound bit"},
		{Name: "sys.triggers", Columns: "object_id int, name nvarchar, parent_class int, parent_id int, type nvarchar, is_ms_shipped bit, is_disabled bit, is_not_for_replication bit, is_instead_of_trigger bit"},
		{Name: "sys.trigger_events", Columns: "object_id int, type int, type_desc nvarchar, is_first bit, is_last bit"},
		{Name: "sys.sql_expression_dependencies", Columns: "referencing_id int, referenced_class int, referenced_database_name nvarchar, referenced_schema_name nvarchar, referenced_entity_name nvarchar, referenced_id int, referenced_minor_id int, is_schema_bound_reference bit, is_caller_dependent bit, is_ambiguous bit"},
		{Name: "sys.synonyms", Columns: object + ", base_object_name nvarchar"},
		{Name: "sys.extended_properties", Columns: "class int, major_id int, minor_id int, name nvarchar, value nvarchar"},
		{Name: "sys.stats", Columns: "object_id int, stats_id int, name nvarchar, user_created bit, no_recompute bit, filter_definition nvarchar"},
		{Name: "sys.stats_columns", Columns: "object_id int, stats_id int, stats_column_id int, column_id int"},
		{Name: "sys.database_permissions", Columns: "class int, major_id int, minor_id int, grantee_principal_id int, grantor_principal_id int, permission_name nvarchar, state nvarchar"},
		{Name: "sys.dm_db_partition_stats", Columns: "object_id int, index_id int, partition_number int, row_count bigint, used_page_count bigint"},
		{Name: "sys.dm_db_index_usage_stats", Columns: "database_id int, object_id int, index_id int, user_seeks bigint, user_scans bigint, user_lookups bigint"},
		{Name: "sys.dm_os_sys_info", Columns: "sqlserver_start_time datetime"},
	}
}

// shower fills the views.
type shower struct {
	d          *database
	ctx        context.Context
	into       func(view string, values ...any) error
	err        error
	principals map[string]int
	spaces     map[string]int
}

func (sh *shower) add(view string, values ...any) {
	if sh.err == nil {
		sh.err = sh.into("sys."+view, values...)
	}
}

const made = "2026-01-05 09:00:00"

// object is what all objects have, for their own views and for sys.objects.
func object(id int, name string, schema, parent int, kind, says string) []any {
	return []any{id, name, schema, nil, parent, kind, says, made, made, 0}
}

func (sh *shower) object(view string, head []any, more ...any) {
	sh.add("objects", head...)
	sh.add(view, append(slices.Clone(head), more...)...)
}

// Show fills them, as the catalog is.
func (d *database) Show(ctx context.Context, add func(view string, values ...any) error) error {
	sh := &shower{d: d, ctx: ctx, into: add, principals: map[string]int{}, spaces: map[string]int{"PRIMARY": 1}}
	sh.add("databases", d.Catalog.Database, 5, collation, 160, 0, 0)
	sh.add("database_principals", 1, "dbo", "S")
	sh.principals["dbo"] = 1
	sh.add("dm_os_sys_info", d.server.up.UTC().Format("2006-01-02 15:04:05"))
	for _, k := range kinds {
		user := k.id
		if k.name == "sysname" {
			user = 256
		}
		sh.add("types", user, k.id, 4, k.name, k.bytes, k.digits, k.rest, nil, 1, 0, 0, 0)
	}
	sh.spacesOf()
	for n, s := range d.Catalog.Schemas {
		sh.schema(s, schemaID(s.Name, n))
	}
	for _, g := range d.more.grants {
		sh.grant(g)
	}
	return sh.err
}

func schemaID(name string, n int) int {
	if name == "dbo" {
		return 1
	}
	return 5 + n
}

func (sh *shower) principal(name string) int {
	if sh.principals[name] == 0 {
		sh.principals[name] = 4 + len(sh.principals)
		sh.add("database_principals", sh.principals[name], name, "S")
	}
	return sh.principals[name]
}

func (sh *shower) space(name string) int {
	if sh.spaces[name] == 0 {
		sh.spaces[name] = 10 + len(sh.spaces)
		sh.add("data_spaces", name, sh.spaces[name], "FG", 0)
	}
	return sh.spaces[name]
}

// spacesOf shows where tables can lie.
func (sh *shower) spacesOf() {
	sh.add("data_spaces", "PRIMARY", 1, "FG", 1)
	functions := map[string]int{}
	for i, name := range sorted(sh.d.more.functions) {
		f := sh.d.more.functions[name]
		id := 65536 + i
		functions[name] = id
		k := describe(f.kind)
		sh.add("partition_functions", name, id, "R", "RANGE", len(f.values)+1, bit(f.right))
		sh.add("partition_parameters", id, 1, k.kind.id, k.length, k.precision, k.scale)
		for n, v := range f.values {
			sh.add("partition_range_values", id, n+1, 1, sh.d.valueOf(f, v))
		}
	}
	for i, name := range sorted(sh.d.more.schemes) {
		id := 65601 + i
		s := sh.d.more.schemes[name]
		sh.spaces[name] = id
		sh.add("data_spaces", name, id, "PS", 0)
		sh.add("partition_schemes", name, id, functions[s.function])
		for n := range len(sh.d.more.functions[s.function].values) + 1 {
			sh.add("destination_data_spaces", id, n+1, 1)
		}
	}
}

// valueOf is a boundary as CONVERT(..., 121) writes it.
func (d *database) valueOf(f *partitionFunction, text string) string {
	value := strings.TrimPrefix(text, "N")
	if strings.HasPrefix(value, "'") {
		value = strings.ReplaceAll(value[1:len(value)-1], "''", "'")
	}
	if v, err := converted(f.kind.Native, value, int64(0)); err == nil {
		return asText(v)
	}
	return value
}

func sorted[T any](m map[string]T) []string {
	var names []string
	for n := range m {
		names = append(names, n)
	}
	slices.Sort(names)
	return names
}

func bit(b bool) int {
	if b {
		return 1
	}
	return 0
}

func null(s string) any {
	if s == "" {
		return nil
	}
	return s
}

func (sh *shower) note(class, major, minor int, text string) {
	if text != "" {
		sh.add("extended_properties", class, major, minor, "MS_Description", text)
	}
}

func (sh *shower) schema(s *catalog.Schema, id int) {
	d := sh.d
	sh.add("schemas", id, s.Name, 1)
	sh.note(3, id, 0, s.Comment)
	for _, y := range s.Types {
		k := describe(*y.Base)
		sh.add("types", d.id("type", s.Name, y.Name), k.kind.id, id, y.Name, k.length, k.precision, k.scale, nil, bit(!y.Required), 1, 0, 0)
	}
	for _, q := range s.Sequences {
		number := d.id("sequence", s.Name, q.Name)
		var last any
		current := q.Start
		if q.Last != nil {
			last, current = *q.Last, *q.Last
		}
		var size any
		if q.Cache > 1 {
			size = q.Cache
		}
		k := kindOf(strings.SplitN(q.Type, "(", 2)[0])
		sh.object("sequences", object(number, q.Name, id, 0, "SO", "SEQUENCE_OBJECT"), q.Start, q.Increment, q.Least, q.Most, bit(q.Cycle), bit(q.Cache != 1), size, k.id, k.id, k.digits, current, last)
		sh.note(1, number, 0, q.Comment)
	}
	for _, o := range s.Objects {
		if o.Kind == "synonym" {
			sh.object("synonyms", object(d.id("synonym", s.Name, o.Name), o.Name, id, 0, "SN", "SYNONYM"), o.Definition)
		}
	}
	for _, t := range s.Tables {
		sh.table(t, id)
	}
	for _, v := range s.Views {
		number := d.id("view", s.Name, v.Name)
		sh.add("objects", object(number, v.Name, id, 0, "V", "VIEW")...)
		bound := slices.Contains(v.Options, "schemabinding")
		sh.add("sql_modules", number, v.Definition, 1, 1, bit(bound))
		sh.depends(number, v.Definition, bound)
		for _, o := range v.Reads { // what it read when it was made
			if ref := (catalog.Ref{Schema: o.Schema, Table: o.Name}); d.Catalog.Table(ref) == nil && d.View(ref) == nil {
				sh.add("sql_expression_dependencies", number, 1, nil, o.Schema, o.Name, nil, 0, 0, 0, 0)
			}
		}
		sh.note(1, number, 0, v.Comment)
		a, err := sh.d.Open("dbo").Peek(sh.ctx, catalog.Ref{Schema: s.Name, Table: v.Name})
		if err != nil { // its columns are as they were, which nobody kept
			continue
		}
		for i, name := range a {
			k := kindOf("sql_variant")
			sh.add("columns", number, i+1, name, k.id, k.id, k.bytes, 0, 0, nil, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, nil, 0)
		}
	}
	for _, f := range s.Routines {
		number := d.id("routine", s.Name, f.Name)
		kind := map[string]string{"procedure": "P", "function": "FN"}[f.Kind]
		sh.add("objects", object(number, f.Name, id, 0, kind, strings.ToUpper(f.Kind))...)
		sh.add("sql_modules", number, f.Definition, 1, 1, 0)
		sh.depends(number, f.Definition, false)
		sh.note(1, number, 0, f.Comment)
	}
}

// depends lists the tables that a text names behind their schemas' names.
func (sh *shower) depends(id int, text string, bound bool) {
	tokens := map[string]bool{}
	var before, dot sqllex.Token
	sh.d.Lexis().Each(text, func(t sqllex.Token) bool {
		if t.Blank() {
			return true
		}
		if dot.Is(".") {
			tokens[before.Name()+"\x00"+t.Name()] = true
		}
		before, dot = dot, t
		return true
	})
	for _, t := range sh.d.Catalog.Tables() {
		if !tokens[t.Schema+"\x00"+t.Name] {
			continue
		}
		number := sh.d.id("table", t.Schema, t.Name)
		sh.add("sql_expression_dependencies", id, 1, nil, t.Schema, t.Name, number, 0, bit(bound), 0, 0)
		if !bound {
			continue
		}
		for i, c := range t.Columns {
			if sh.d.Lexis().Mentions(text, c.Name) {
				sh.add("sql_expression_dependencies", id, 1, nil, t.Schema, t.Name, number, i+1, 1, 0, 0)
			}
		}
	}
}

func (sh *shower) grant(g grant) {
	t := sh.d.Catalog.Table(g.on)
	if t == nil {
		return
	}
	minor := 0
	if g.column != "" {
		minor = columnID(t, g.column)
	}
	sh.add("database_permissions", 1, sh.d.id("table", t.Schema, t.Name), minor, sh.principal(g.to), 1, g.what, g.state)
}

func columnID(t *catalog.Table, name string) int {
	return slices.IndexFunc(t.Columns, func(c *catalog.Column) bool { return c.Name == name }) + 1
}

func (sh *shower) table(t *catalog.Table, schema int) {
	d := sh.d
	id := d.id("table", t.Schema, t.Name)
	sh.object("tables", object(id, t.Name, schema, 0, "U", "USER_TABLE"), 0, 0, 0, 0, 0, 0, 0, 0, 0)
	sh.note(1, id, 0, t.Comment)
	for i, c := range t.Columns {
		sh.column(t, c, id, i+1, schema)
	}
	rows, err := d.Count(sh.ctx, "SELECT count(*) FROM "+d.Stored(t.Ref()))
	if err != nil {
		sh.err = err
		return
	}
	sh.indexes(t, id, schema, rows)
	sh.leaning(t, id, schema)
	for _, k := range t.Checks {
		number := d.id("check", t.Schema, t.Name, k.Name)
		sh.object("check_constraints", object(number, k.Name, schema, id, "C", "CHECK_CONSTRAINT"), columnID(t, k.Column), k.Expression, bit(k.NotEnforced), bit(k.NotValidated), 0, 0)
		sh.note(1, number, 0, k.Comment)
	}
	for _, f := range t.ForeignKeys {
		sh.reference(t, f, id, schema)
	}
	for _, g := range t.Triggers {
		number := d.id("trigger", t.Schema, t.Name, g.Name)
		sh.add("objects", object(number, g.Name, schema, id, "TR", "SQL_TRIGGER")...)
		sh.add("sql_modules", number, g.Definition, 1, 1, 0)
		sh.add("triggers", number, g.Name, 1, id, "TR", 0, bit(g.Enabled == "disabled"), 0, bit(g.Timing == "instead of"))
		for n, event := range g.Events {
			sh.add("trigger_events", number, n+1, strings.ToUpper(event), bit(g.Order == 1), bit(g.Order == -1))
		}
		sh.note(1, number, 0, g.Comment)
	}
	stats := 100
	for _, name := range sorted(d.more.statistics[t.Ref()]) {
		stats++
		sh.add("stats", id, stats, name, 1, 0, nil)
		for n, column := range d.more.statistics[t.Ref()][name] {
			sh.add("stats_columns", id, stats, n+1, columnID(t, column))
		}
	}
}

func (sh *shower) column(t *catalog.Table, c *catalog.Column, id, number, schema int) {
	d := sh.d
	k := describe(c.Type)
	user := k.kind.id
	if c.Type.Underlying != "" {
		in, name, _ := strings.Cut(c.Type.Native, ".")
		user = d.id("type", in, name)
	}
	var textual any
	if k.kind.family == catalog.Text {
		if textual = collation; c.Type.Collation != "" {
			textual = c.Type.Collation
		}
	}
	has := func(option string) int { return bit(slices.Contains(c.Options, option)) }
	def := 0
	if c.Default != "" {
		def = d.id("default", t.Schema, t.Name, c.Name, c.DefaultName)
		sh.object("default_constraints", object(def, c.DefaultName, schema, id, "D", "DEFAULT_CONSTRAINT"), number, c.Default, 0)
	}
	sh.add("columns", id, number, c.Name, k.kind.id, user, k.length, k.precision, k.scale, textual, bit(c.Nullable), bit(c.Identity != catalog.NoIdentity), bit(c.Generated != ""), has("sparse"), 0, has("rowguidcol"), 0, 0, bit(mask(c) != ""), 0, def, 0, nil, 0)
	if function := mask(c); function != "" {
		sh.add("masked_columns", id, number, function)
	}
	if c.Identity != catalog.NoIdentity {
		seed, step := counts(t)
		var last any
		if t.Stats.Counter != nil && *t.Stats.Counter != seed {
			last = *t.Stats.Counter - step
		}
		sh.add("identity_columns", id, number, c.Name, seed, step, last, has("not for replication"))
	}
	if c.Generated != "" {
		sh.add("computed_columns", id, number, c.Name, c.Generated, bit(c.Stored))
	}
	sh.note(1, id, number, c.Comment)
}

// bytesARow is what a row takes, more or less.
const (
	bytesARow    = 60
	bytesAnIndex = 20
	pageBytes    = 8192
)

// kindsOfIndex by method and order.
func kindOfIndex(x *catalog.Index) (int, string) {
	switch {
	case x.Method == "columnstore" && x.Clustered:
		return 5, "CLUSTERED COLUMNSTORE"
	case x.Method == "columnstore":
		return 6, "NONCLUSTERED COLUMNSTORE"
	case x.Method == "xml":
		return 3, "XML"
	case x.Method == "spatial":
		return 4, "SPATIAL"
	case x.Clustered:
		return 1, "CLUSTERED"
	}
	return 2, "NONCLUSTERED"
}

func (sh *shower) indexes(t *catalog.Table, id, schema int, rows int64) {
	home := sh.space("PRIMARY")
	cut := ""
	if t.PartitionBy != nil {
		home, cut = sh.spaces[t.PartitionBy.Definition], t.PartitionBy.Columns[0]
	} else if t.Tablespace != "" {
		home = sh.space(t.Tablespace)
	}
	if t.Clustering() == nil {
		sh.add("indexes", id, 0, nil, 0, "HEAP", 0, home, 0, 0, 0, 0, 0, 0, 0, 1, 1, 0, nil)
		if cut != "" {
			sh.add("index_columns", id, 0, 1, columnID(t, cut), 0, 1, 0, 0)
		}
		sh.parts(t, id, 0, rows, option(t.Storage, "DATA_COMPRESSION"), bytesARow)
	}
	for _, x := range t.Indexes {
		number := indexID(t, x)
		kind, says := kindOfIndex(x)
		where, by := home, cut
		if !x.Clustered && x.Tablespace != "" {
			name, column, split := strings.Cut(strings.TrimSuffix(x.Tablespace, ")"), "(")
			if by = column; split {
				where = sh.spaces[name]
			} else {
				where = sh.space(name)
			}
		}
		fill := 0
		fmt.Sscan(option(x.Storage, "FILLFACTOR"), &fill)
		sh.add("indexes", id, number, x.Name, kind, says, bit(x.Unique), where, bit(option(x.Storage, "IGNORE_DUP_KEY") == "ON"), bit(x.Origin == catalog.ByPrimaryKey), bit(x.Origin == catalog.ByUniqueKey), fill,
			bit(option(x.Storage, "PAD_INDEX") == "ON"), bit(x.Invalid), 0, bit(option(x.Storage, "ALLOW_ROW_LOCKS") != "OFF"), bit(option(x.Storage, "ALLOW_PAGE_LOCKS") != "OFF"), bit(x.Predicate != ""), null(x.Predicate))
		n := 0
		for i, p := range x.Parts {
			n++
			order := i + 1
			if x.Method == "columnstore" {
				order = 0
			}
			sh.add("index_columns", id, number, n, columnID(t, p.Column), order, bit(p.Column == by), bit(p.Descending), bit(x.Method == "columnstore"))
		}
		for _, c := range x.Include {
			n++
			sh.add("index_columns", id, number, n, columnID(t, c), 0, 0, 0, 1)
		}
		if by != "" && !slices.Contains(x.Columns(), by) {
			sh.add("index_columns", id, number, n+1, columnID(t, by), 0, 1, 0, 0)
		}
		width := int64(bytesAnIndex * (len(x.Parts) + len(x.Include)))
		if x.Clustered {
			width = bytesARow
		}
		sh.parts(t, id, number, rows, option(x.Storage, "DATA_COMPRESSION"), width)
		sh.add("stats", id, number, x.Name, 0, 0, null(x.Predicate))
		for i, p := range x.Parts {
			sh.add("stats_columns", id, number, i+1, columnID(t, p.Column))
		}
		sh.note(7, id, number, x.Comment)
		if x.Origin != catalog.ByPerson {
			kind, says := "UQ", "UNIQUE_CONSTRAINT"
			key := t.PrimaryKey
			if x.Origin == catalog.ByPrimaryKey {
				kind, says = "PK", "PRIMARY_KEY_CONSTRAINT"
			} else {
				key = t.UniqueKeys[slices.IndexFunc(t.UniqueKeys, func(k *catalog.Key) bool { return k.Index == x.Name })]
			}
			of := sh.d.id("key", t.Schema, t.Name, x.Name)
			sh.object("key_constraints", object(of, x.Name, schema, id, kind, says), number, 0)
			sh.note(1, of, 0, key.Comment)
		}
	}
}

// indexID: the clustered index is 1, the others count from 2.
func indexID(t *catalog.Table, x *catalog.Index) int {
	if x.Clustered {
		return 1
	}
	n := 2
	for _, o := range t.Indexes {
		if o == x {
			break
		}
		if !o.Clustered {
			n++
		}
	}
	return n
}

// option is the value of one in a list of them, or "".
func option(list, name string) string {
	for part := range strings.SplitSeq(list, ", ") {
		if key, value, ok := strings.Cut(part, " = "); ok && key == name {
			return value
		}
	}
	return ""
}

// parts shows the partitions of an index with their rows: one, where the table is not cut up.
func (sh *shower) parts(t *catalog.Table, id, index int, rows int64, compression string, width int64) {
	if compression == "" {
		compression = "NONE"
	}
	counts := []int64{rows}
	if t.PartitionBy != nil && index < 2 {
		var err error
		if counts, err = sh.d.cutRows(sh.ctx, t); err != nil {
			sh.err = err
			return
		}
	}
	for n, count := range counts {
		sh.add("partitions", 72057594040000000+id+n, id, index, n+1, count, compression)
		sh.add("dm_db_partition_stats", id, index, n+1, count, count*width/pageBytes+1)
	}
}

// cutRows are the rows of each part of a table.
func (d *database) cutRows(ctx context.Context, t *catalog.Table) ([]int64, error) {
	scheme := d.more.schemes[t.PartitionBy.Definition]
	f := d.more.functions[scheme.function]
	column := standin.Quote(t.PartitionBy.Columns[0])
	at := func(i int) string {
		if i < 0 || i >= len(f.values) {
			return ""
		}
		value := d.valueOf(f, f.values[i])
		if f.kind.Family == catalog.Integer || f.kind.Family == catalog.Decimal {
			return value
		}
		return quoted(value)
	}
	low, high := " >= ", " < "
	if !f.right {
		low, high = " > ", " <= "
	}
	var counts []int64
	for i := range len(f.values) + 1 {
		where := []string{"1 = 1"}
		if v := at(i - 1); v != "" {
			where = append(where, column+low+v)
		} else {
			where[0] = "(1 = 1"
		}
		if v := at(i); v != "" {
			where = append(where, column+high+v)
		}
		condition := strings.Join(where, " AND ")
		if i == 0 { // nulls lie in the first
			condition += " OR " + column + " IS NULL)"
		}
		n, err := d.Count(ctx, "SELECT count(*) FROM "+d.Stored(t.Ref())+" WHERE "+condition)
		if err != nil {
			return nil, err
		}
		counts = append(counts, n)
	}
	return counts, nil
}

func (sh *shower) reference(t *catalog.Table, f *catalog.ForeignKey, id, schema int) {
	d := sh.d
	to := d.Catalog.Table(f.Target)
	target := d.id("table", to.Schema, to.Name)
	number := d.id("foreign key", t.Schema, t.Name, f.Name)
	key := 0
	if x := to.Index(f.TargetIndex); x != nil {
		key = indexID(to, x)
	}
	action := map[catalog.Action]int{catalog.Cascade: 1, catalog.SetNull: 2, catalog.SetDefault: 3}
	sh.object("foreign_keys", object(number, f.Name, schema, id, "F", "FOREIGN_KEY_CONSTRAINT"), target, key, bit(f.Disabled), 0, bit(f.NotValidated), action[f.OnDelete], action[f.OnUpdate], 0)
	for i := range f.Columns {
		sh.add("foreign_key_columns", number, i+1, id, columnID(t, f.Columns[i]), target, columnID(to, f.TargetColumns[i]))
	}
	sh.note(1, number, 0, f.Comment)
}
