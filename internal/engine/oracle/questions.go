package oracle

// The questions of a survey: each is put once, whatever the size of the catalog. They name the
// views of administrators; an account that may not see those is asked the same of the views of
// what it may see, DBA_ being ALL_ then. Columns of type LONG stand as they are: no function
// takes them. A view has its page in
// https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/ under its name.
const (
	askServer = `SELECT (SELECT MAX(p.version) FROM product_component_version p WHERE p.product LIKE 'Oracle%') AS version, (SELECT MAX(p.product) FROM product_component_version p WHERE p.product LIKE 'Oracle%') AS product,
  SYS_CONTEXT('USERENV', 'DB_NAME') AS db_name, SYS_CONTEXT('USERENV', 'SESSION_USER') AS account, (SELECT n.value FROM nls_database_parameters n WHERE n.parameter = 'NLS_CHARACTERSET') AS characters,
  (SELECT COUNT(*) FROM DBA_USERS u WHERE u.username = 'SYS') AS sees_sys
  FROM dual`

	// Accounts of the maker's are left out.
	askUsers = `SELECT u.username FROM DBA_USERS u WHERE u.oracle_maintained = 'N' ORDER BY u.username`

	others = `IN (SELECT u.username FROM DBA_USERS u WHERE u.oracle_maintained = 'N')`

	askTables = `SELECT t.owner, t.table_name, t.tablespace_name, t.cluster_name, t.iot_type, t.temporary, t.duration, t.compression, t.compress_for, t.read_only, t.num_rows, t.blocks, TO_CHAR(t.last_analyzed, 'YYYY-MM-DD"T"HH24:MI:SS') AS analyzed, t.pct_free, t.logging
  FROM DBA_TABLES t WHERE t.owner ` + others + ` AND t.nested = 'NO' AND t.secondary = 'N' AND t.dropped = 'NO' AND (t.iot_type IS NULL OR t.iot_type = 'IOT') ORDER BY t.owner, t.table_name`

	askExternal = `SELECT x.owner, x.table_name, x.type_name FROM DBA_EXTERNAL_TABLES x WHERE x.owner ` + others + ` ORDER BY x.owner, x.table_name`

	askColumns = `SELECT c.owner, c.table_name, c.column_name, c.data_type, c.data_type_owner, c.data_length, c.data_precision, c.data_scale, c.nullable, c.data_default, c.char_length, c.char_used, c.hidden_column, c.virtual_column, c.user_generated, c.default_on_null, c.num_distinct, c.num_nulls, c.collation
  FROM DBA_TAB_COLS c WHERE c.owner ` + others + ` ORDER BY c.owner, c.table_name, c.internal_column_id`

	askIdentities = `SELECT i.owner, i.table_name, i.column_name, i.generation_type, i.sequence_name, i.identity_options FROM DBA_TAB_IDENTITY_COLS i WHERE i.owner ` + others + ` ORDER BY i.owner, i.table_name`

	askIndexes = `SELECT i.owner, i.index_name, i.index_type, i.table_owner, i.table_name, i.uniqueness, i.compression, i.prefix_length, i.tablespace_name, i.status, i.partitioned, i.visibility, i.generated, i.ityp_owner, i.ityp_name, i.funcidx_status
  FROM DBA_INDEXES i WHERE i.table_owner ` + others + ` AND i.index_type <> 'LOB' AND i.secondary = 'N' AND i.dropped = 'NO' ORDER BY i.owner, i.index_name`

	askIndexColumns = `SELECT c.index_owner, c.index_name, c.column_name, c.column_position, c.descend FROM DBA_IND_COLUMNS c WHERE c.table_owner ` + others + ` ORDER BY c.index_owner, c.index_name, c.column_position`

	askIndexExpressions = `SELECT e.index_owner, e.index_name, e.column_position, e.column_expression FROM DBA_IND_EXPRESSIONS e WHERE e.table_owner ` + others + ` ORDER BY e.index_owner, e.index_name, e.column_position`

	askPartIndexes = `SELECT p.owner, p.index_name, p.locality, p.partitioning_type FROM DBA_PART_INDEXES p WHERE p.owner ` + others + ` ORDER BY p.owner, p.index_name`

	// Parts of indexes that serve no query.
	askUnusable = `SELECT p.index_owner, p.index_name, p.partition_name FROM DBA_IND_PARTITIONS p WHERE p.status = 'UNUSABLE' AND p.index_owner ` + others + ` ORDER BY p.index_owner, p.index_name, p.partition_position`

	askConstraints = `SELECT k.owner, k.constraint_name, k.constraint_type, k.table_name, k.search_condition, k.r_owner, k.r_constraint_name, k.delete_rule, k.status, k.deferrable, k.deferred, k.validated, k.generated, k.rely, k.index_owner, k.index_name
  FROM DBA_CONSTRAINTS k WHERE k.owner ` + others + ` AND k.constraint_type IN ('C', 'P', 'U', 'R') ORDER BY k.owner, k.constraint_name`

	askConstraintColumns = `SELECT c.owner, c.constraint_name, c.column_name, c.position FROM DBA_CONS_COLUMNS c WHERE c.owner ` + others + ` ORDER BY c.owner, c.constraint_name, c.position, c.column_name`

	askPartTables = `SELECT p.owner, p.table_name, p.partitioning_type, p.subpartitioning_type, p.interval, p.ref_ptn_constraint_name, p.autolist FROM DBA_PART_TABLES p WHERE p.owner ` + others + ` ORDER BY p.owner, p.table_name`

	askPartKeys = `SELECT k.owner, k.name, k.column_name FROM DBA_PART_KEY_COLUMNS k WHERE k.object_type = 'TABLE' AND k.owner ` + others + ` ORDER BY k.owner, k.name, k.column_position`

	askSubpartKeys = `SELECT k.owner, k.name, k.column_name FROM DBA_SUBPART_KEY_COLUMNS k WHERE k.object_type = 'TABLE' AND k.owner ` + others + ` ORDER BY k.owner, k.name, k.column_position`

	askParts = `SELECT p.table_owner, p.table_name, p.partition_name, p.high_value, p.num_rows, p.tablespace_name FROM DBA_TAB_PARTITIONS p WHERE p.table_owner ` + others + ` ORDER BY p.table_owner, p.table_name, p.partition_position`

	askSubparts = `SELECT p.table_owner, p.table_name, p.partition_name, p.subpartition_name, p.high_value, p.num_rows FROM DBA_TAB_SUBPARTITIONS p WHERE p.table_owner ` + others + ` ORDER BY p.table_owner, p.table_name, p.partition_name, p.subpartition_position`

	askSequences = `SELECT q.sequence_owner, q.sequence_name, q.min_value, q.max_value, q.increment_by, q.cycle_flag, q.order_flag, q.cache_size, q.last_number FROM DBA_SEQUENCES q WHERE q.sequence_owner ` + others + ` ORDER BY q.sequence_owner, q.sequence_name`

	askViews = `SELECT v.owner, v.view_name, v.text, v.read_only FROM DBA_VIEWS v WHERE v.owner ` + others + ` ORDER BY v.owner, v.view_name`

	askMaterialized = `SELECT m.owner, m.mview_name, m.query, m.refresh_mode, m.refresh_method FROM DBA_MVIEWS m WHERE m.owner ` + others + ` ORDER BY m.owner, m.mview_name`

	askTriggers = `SELECT g.owner, g.trigger_name, g.trigger_type, g.triggering_event, g.table_owner, g.base_object_type, g.table_name, g.status FROM DBA_TRIGGERS g WHERE g.owner ` + others + ` ORDER BY g.owner, g.trigger_name`

	askSource = `SELECT s.owner, s.name, s.type, s.text FROM DBA_SOURCE s WHERE s.owner ` + others + ` ORDER BY s.owner, s.name, s.type, s.line`

	askSynonyms = `SELECT s.owner, s.synonym_name, s.table_owner, s.table_name, s.db_link FROM DBA_SYNONYMS s WHERE s.owner ` + others + ` ORDER BY s.owner, s.synonym_name`

	askTableComments = `SELECT c.owner, c.table_name, c.comments FROM DBA_TAB_COMMENTS c WHERE c.comments IS NOT NULL AND c.owner ` + others + ` ORDER BY c.owner, c.table_name`

	askColumnComments = `SELECT c.owner, c.table_name, c.column_name, c.comments FROM DBA_COL_COMMENTS c WHERE c.comments IS NOT NULL AND c.owner ` + others + ` ORDER BY c.owner, c.table_name, c.column_name`

	askDependencies = `SELECT d.owner, d.name, d.type, d.referenced_owner, d.referenced_name, d.referenced_type FROM DBA_DEPENDENCIES d WHERE d.owner ` + others + ` AND d.referenced_owner ` + others + ` ORDER BY d.owner, d.name, d.type, d.referenced_owner, d.referenced_name`

	// What could not be compiled any more.
	askInvalid = `SELECT o.owner, o.object_name, o.object_type FROM DBA_OBJECTS o WHERE o.status = 'INVALID' AND o.owner ` + others + ` ORDER BY o.owner, o.object_type, o.object_name`

	// What is no table of rows: of objects, of XML, or of the rows nested in another's. The first
	// two are in no list of tables.
	askOddTables = `SELECT o.owner, o.object_name FROM DBA_OBJECTS o WHERE o.object_type = 'TABLE' AND o.secondary = 'N' AND o.owner ` + others + ` AND NOT EXISTS (SELECT 1 FROM DBA_TABLES t WHERE t.owner = o.owner AND t.table_name = o.object_name)
  UNION ALL SELECT t.owner, t.table_name FROM DBA_TABLES t WHERE t.nested = 'YES' AND t.owner ` + others + ` ORDER BY 1, 2`

	askLogs = `SELECT l.log_owner, l.master, l.log_table FROM DBA_MVIEW_LOGS l WHERE l.log_owner ` + others + ` ORDER BY l.log_owner, l.master`

	askPolicies = `SELECT p.object_owner, p.object_name, p.policy_name, p.sel FROM DBA_POLICIES p WHERE p.enable = 'YES' AND p.object_owner ` + others + ` ORDER BY p.object_owner, p.object_name, p.policy_name`

	// Objects of the kinds that no question asks for.
	askUnread = `SELECT o.owner, o.object_type, COUNT(*) AS many FROM DBA_OBJECTS o WHERE o.owner ` + others + ` AND o.object_type NOT LIKE 'TABLE%' AND o.object_type NOT LIKE 'INDEX%' AND o.object_type NOT LIKE 'LOB%' AND o.object_type NOT IN ('SEQUENCE', 'VIEW', 'MATERIALIZED VIEW', 'TRIGGER', 'PROCEDURE', 'FUNCTION', 'PACKAGE', 'PACKAGE BODY', 'TYPE', 'TYPE BODY', 'SYNONYM')
  GROUP BY o.owner, o.object_type ORDER BY o.owner, o.object_type`

	// The columns are called otherwise in the view of what an account may see.
	askGrants    = `SELECT p.owner, p.table_name, p.grantee, p.grantor, p.privilege, p.grantable FROM dba_tab_privs p WHERE p.owner ` + others + ` ORDER BY p.owner, p.table_name, p.grantee, p.privilege`
	askGrantsAll = `SELECT p.table_schema, p.table_name, p.grantee, p.grantor, p.privilege, p.grantable FROM all_tab_privs p WHERE p.table_schema ` + others + ` ORDER BY p.table_schema, p.table_name, p.grantee, p.privilege`

	askColumnGrants    = `SELECT p.owner, p.table_name, p.grantee, p.grantor, p.privilege, p.grantable, p.column_name FROM dba_col_privs p WHERE p.owner ` + others + ` ORDER BY p.owner, p.table_name, p.grantee, p.privilege, p.column_name`
	askColumnGrantsAll = `SELECT p.table_schema, p.table_name, p.grantee, p.grantor, p.privilege, p.grantable, p.column_name FROM all_col_privs p WHERE p.table_schema ` + others + ` ORDER BY p.table_schema, p.table_name, p.grantee, p.privilege, p.column_name`

	// Without the administrators' view, the account's own segments alone are to be seen.
	askSegments    = `SELECT s.owner, s.segment_name, s.segment_type, SUM(s.bytes) AS bytes FROM dba_segments s WHERE s.owner ` + others + ` GROUP BY s.owner, s.segment_name, s.segment_type ORDER BY s.owner, s.segment_name, s.segment_type`
	askSegmentsOwn = `SELECT SYS_CONTEXT('USERENV', 'SESSION_USER') AS owner, s.segment_name, s.segment_type, SUM(s.bytes) AS bytes FROM user_segments s GROUP BY s.segment_name, s.segment_type ORDER BY s.segment_name, s.segment_type`
)

// Where the objects of an account lie, as long as nothing is said.
const (
	askSpaces    = `SELECT u.username, u.default_tablespace FROM dba_users u WHERE u.oracle_maintained = 'N' ORDER BY u.username`
	askSpacesOwn = `SELECT u.username, u.default_tablespace FROM user_users u`
)
