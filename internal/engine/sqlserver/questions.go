package sqlserver

// The questions of a survey: each is put once, whatever the size of the catalog. The views are
// those of https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/,
// each with a page of its own under its name. What another way of storing needs is read as far
// as it bars an alteration.
const (
	// Of sys.databases and SERVERPROPERTY
	// (https://learn.microsoft.com/en-us/sql/t-sql/functions/serverproperty-transact-sql).
	askServer = `SELECT CAST(SERVERPROPERTY('ProductVersion') AS nvarchar(128)) AS version, CAST(SERVERPROPERTY('Edition') AS nvarchar(128)) AS edition, CAST(SERVERPROPERTY('EngineEdition') AS nvarchar(10)) AS engine_edition,
  DB_NAME() AS name, d.collation_name, CAST(d.compatibility_level AS int) AS compatibility_level, d.is_read_committed_snapshot_on, CAST(d.snapshot_isolation_state AS int) AS snapshot_isolation_state, @@VERSION AS says
  FROM sys.databases d WHERE d.name = DB_NAME()`

	askSchemas = `SELECT s.schema_id, s.name, p.name AS owner
  FROM sys.schemas s LEFT JOIN sys.database_principals p ON p.principal_id = s.principal_id
  WHERE s.schema_id < 16384 AND s.name NOT IN (N'sys', N'INFORMATION_SCHEMA', N'guest') ORDER BY s.schema_id`

	askTypes = `SELECT t.user_type_id, t.schema_id, t.name, b.name AS base, t.max_length, t.precision, t.scale, t.collation_name, t.is_nullable, t.is_user_defined, t.is_table_type, t.is_assembly_type
  FROM sys.types t LEFT JOIN sys.types b ON b.user_type_id = t.system_type_id ORDER BY t.user_type_id`

	// A ledger is of 2022, a graph of 2017.
	askTables = `SELECT t.object_id, t.schema_id, t.name, t.is_memory_optimized, CAST(t.temporal_type AS int) AS temporal_type, t.is_external, t.is_filetable, %s AS is_graph, %s AS ledger_type, t.is_replicated, t.is_tracked_by_cdc,
  p.name AS owner, ds.name AS data_space, ds.type AS data_space_type
  FROM sys.tables t LEFT JOIN sys.database_principals p ON p.principal_id = t.principal_id
  LEFT JOIN sys.indexes i ON i.object_id = t.object_id AND i.index_id IN (0, 1) LEFT JOIN sys.data_spaces ds ON ds.data_space_id = i.data_space_id
  WHERE t.is_ms_shipped = 0 ORDER BY t.object_id`

	askColumns = `SELECT c.object_id, c.column_id, c.name, c.user_type_id, c.max_length, c.precision, c.scale, c.collation_name, c.is_nullable, c.is_identity, c.is_sparse, c.is_column_set, c.is_rowguidcol, c.is_filestream, c.is_hidden, c.is_masked,
  CAST(c.generated_always_type AS int) AS generated_always_type, CAST(i.seed_value AS nvarchar(40)) AS seed_value, CAST(i.increment_value AS nvarchar(40)) AS increment_value, CAST(i.last_value AS nvarchar(40)) AS last_value, i.is_not_for_replication,
  k.definition AS computed, k.is_persisted, d.name AS default_name, d.definition AS default_definition, d.is_system_named AS default_is_system_named,
  m.masking_function, c.encryption_type_desc, r.name AS bound_rule, b.name AS bound_default, x.name AS xml_collection
  FROM sys.columns c JOIN sys.objects o ON o.object_id = c.object_id
  LEFT JOIN sys.identity_columns i ON i.object_id = c.object_id AND i.column_id = c.column_id
  LEFT JOIN sys.computed_columns k ON k.object_id = c.object_id AND k.column_id = c.column_id
  LEFT JOIN sys.default_constraints d ON d.object_id = c.default_object_id
  LEFT JOIN sys.masked_columns m ON m.object_id = c.object_id AND m.column_id = c.column_id
  LEFT JOIN sys.xml_schema_collections x ON x.xml_collection_id = c.xml_collection_id AND c.xml_collection_id > 0
  LEFT JOIN sys.objects r ON r.object_id = c.rule_object_id LEFT JOIN sys.objects b ON b.object_id = c.default_object_id AND b.parent_object_id = 0
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') ORDER BY c.object_id, c.column_id`

	askIndexes = `SELECT i.object_id, i.index_id, i.name, CAST(i.type AS int) AS type, i.type_desc, i.is_unique, i.is_primary_key, i.is_unique_constraint, i.ignore_dup_key, i.fill_factor, i.is_padded, i.is_disabled, i.is_hypothetical, i.allow_row_locks, i.allow_page_locks,
  i.has_filter, i.filter_definition, k.name AS key_name, k.object_id AS key_id, ds.name AS data_space, ds.type AS data_space_type, ds.is_default
  FROM sys.indexes i JOIN sys.objects o ON o.object_id = i.object_id
  LEFT JOIN sys.key_constraints k ON k.parent_object_id = i.object_id AND k.unique_index_id = i.index_id
  LEFT JOIN sys.data_spaces ds ON ds.data_space_id = i.data_space_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') ORDER BY i.object_id, i.index_id`

	askIndexColumns = `SELECT x.object_id, x.index_id, x.column_id, x.key_ordinal, x.partition_ordinal, x.is_descending_key, x.is_included_column
  FROM sys.index_columns x JOIN sys.objects o ON o.object_id = x.object_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') ORDER BY x.object_id, x.index_id, x.key_ordinal, x.index_column_id`

	askXMLIndexes = `SELECT x.object_id, x.index_id, x.using_xml_index_id, x.secondary_type_desc, CAST(x.xml_index_type AS int) AS xml_index_type
  FROM sys.xml_indexes x ORDER BY x.object_id, x.index_id`

	// Style 3 gives back every digit of a number
	// (https://learn.microsoft.com/en-us/sql/t-sql/functions/cast-and-convert-transact-sql#float-and-real-styles).
	askSpatialIndexes = `SELECT g.object_id, g.index_id, g.tessellation_scheme, CONVERT(nvarchar(40), g.bounding_box_xmin, 3) AS xmin, CONVERT(nvarchar(40), g.bounding_box_ymin, 3) AS ymin, CONVERT(nvarchar(40), g.bounding_box_xmax, 3) AS xmax, CONVERT(nvarchar(40), g.bounding_box_ymax, 3) AS ymax,
  g.level_1_grid_desc, g.level_2_grid_desc, g.level_3_grid_desc, g.level_4_grid_desc, g.cells_per_object
  FROM sys.spatial_index_tessellations g ORDER BY g.object_id, g.index_id`

	askFullText = `SELECT f.object_id, f.unique_index_id, c.column_id FROM sys.fulltext_indexes f LEFT JOIN sys.fulltext_index_columns c ON c.object_id = f.object_id
  ORDER BY f.object_id, c.column_id`

	askTracking = `SELECT t.object_id FROM sys.change_tracking_tables t ORDER BY t.object_id`

	askPolicies = `SELECT p.schema_id, p.name, q.target_object_id, q.predicate_definition, q.predicate_type_desc, p.is_enabled
  FROM sys.security_policies p JOIN sys.security_predicates q ON q.object_id = p.object_id WHERE p.is_ms_shipped = 0 ORDER BY p.object_id, q.security_predicate_id`

	askForeignKeys = `SELECT f.object_id, f.name, f.parent_object_id, f.referenced_object_id, f.key_index_id, f.is_disabled, f.is_not_trusted, f.is_not_for_replication, CAST(f.delete_referential_action AS int) AS on_delete, CAST(f.update_referential_action AS int) AS on_update
  FROM sys.foreign_keys f WHERE f.is_ms_shipped = 0 ORDER BY f.object_id`

	askForeignKeyColumns = `SELECT c.constraint_object_id, c.parent_object_id, c.parent_column_id, c.referenced_object_id, c.referenced_column_id
  FROM sys.foreign_key_columns c ORDER BY c.constraint_object_id, c.constraint_column_id`

	askChecks = `SELECT k.object_id, k.name, k.parent_object_id, k.parent_column_id, k.definition, k.is_disabled, k.is_not_trusted, k.is_not_for_replication
  FROM sys.check_constraints k WHERE k.is_ms_shipped = 0 ORDER BY k.object_id`

	askPartitions = `SELECT p.object_id, p.index_id, p.partition_number, p.rows, p.data_compression_desc
  FROM sys.partitions p JOIN sys.objects o ON o.object_id = p.object_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') ORDER BY p.object_id, p.index_id, p.partition_number`

	askPartitionSchemes = `SELECT s.name AS scheme, f.name AS [function], f.type_desc, f.boundary_value_on_right, f.fanout, b.name AS base, p.max_length, p.precision, p.scale
  FROM sys.partition_functions f LEFT JOIN sys.partition_schemes s ON s.function_id = f.function_id
  JOIN sys.partition_parameters p ON p.function_id = f.function_id AND p.parameter_id = 1 LEFT JOIN sys.types b ON b.user_type_id = p.system_type_id ORDER BY s.name, f.name`

	askPartitionValues = `SELECT f.name AS [function], v.boundary_id, CONVERT(nvarchar(4000), v.value, 121) AS value
  FROM sys.partition_range_values v JOIN sys.partition_functions f ON f.function_id = v.function_id WHERE v.parameter_id = 1 ORDER BY f.name, v.boundary_id`

	askPartitionSpaces = `SELECT s.name AS scheme, d.destination_id, g.name AS filegroup
  FROM sys.destination_data_spaces d JOIN sys.partition_schemes s ON s.data_space_id = d.partition_scheme_id JOIN sys.data_spaces g ON g.data_space_id = d.data_space_id ORDER BY s.name, d.destination_id`

	askSequences = `SELECT q.object_id, q.schema_id, q.name, y.name AS base, q.precision, CAST(q.start_value AS nvarchar(40)) AS start_value, CAST(q.increment AS nvarchar(40)) AS increment, CAST(q.minimum_value AS nvarchar(40)) AS minimum_value, CAST(q.maximum_value AS nvarchar(40)) AS maximum_value,
  q.is_cycling, q.is_cached, q.cache_size, CAST(q.current_value AS nvarchar(40)) AS current_value, %s AS last_used_value
  FROM sys.sequences q LEFT JOIN sys.types y ON y.user_type_id = q.user_type_id WHERE q.is_ms_shipped = 0 ORDER BY q.object_id`

	askModules = `SELECT m.object_id, o.schema_id, o.name, o.type, o.parent_object_id, m.definition, m.uses_ansi_nulls, m.uses_quoted_identifier, m.is_schema_bound, p.name AS owner
  FROM sys.sql_modules m JOIN sys.objects o ON o.object_id = m.object_id LEFT JOIN sys.database_principals p ON p.principal_id = o.principal_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('V', 'P', 'FN', 'IF', 'TF', 'TR') ORDER BY m.object_id`

	askTriggers = `SELECT t.object_id, t.parent_id, t.name, t.is_disabled, t.is_instead_of_trigger, t.is_not_for_replication, t.type, e.type_desc AS event, e.is_first, e.is_last
  FROM sys.triggers t LEFT JOIN sys.trigger_events e ON e.object_id = t.object_id
  WHERE t.parent_class = 1 AND t.is_ms_shipped = 0 ORDER BY t.object_id, e.type_desc`

	askReads = `SELECT d.referencing_id, d.referenced_schema_name, d.referenced_entity_name, d.is_schema_bound_reference, c.name AS column_name, CASE WHEN d.referenced_id IS NULL AND d.is_caller_dependent = 0 AND d.is_ambiguous = 0 THEN 1 ELSE 0 END AS is_gone
  FROM sys.sql_expression_dependencies d LEFT JOIN sys.columns c ON c.object_id = d.referenced_id AND c.column_id = d.referenced_minor_id AND d.referenced_minor_id > 0
  WHERE d.referenced_class = 1 AND d.referenced_entity_name IS NOT NULL AND d.referenced_database_name IS NULL ORDER BY d.referencing_id, d.referenced_schema_name, d.referenced_entity_name, c.name`

	askSynonyms = `SELECT s.schema_id, s.name, s.base_object_name FROM sys.synonyms s WHERE s.is_ms_shipped = 0 ORDER BY s.schema_id, s.name`

	// Only one property is a comment by the custom of the maker's tools.
	askComments = `SELECT CAST(e.class AS int) AS class, e.major_id, e.minor_id, e.name, CAST(e.value AS nvarchar(max)) AS value FROM sys.extended_properties e
  WHERE e.class IN (0, 1, 3, 6, 7) ORDER BY e.class, e.major_id, e.minor_id, e.name`

	// Statistics that a person made stand in the way of altering their columns.
	askStatistics = `SELECT s.object_id, s.stats_id, s.name, s.user_created, s.no_recompute, s.filter_definition, c.column_id, CONVERT(nvarchar(30), STATS_DATE(s.object_id, s.stats_id), 126) AS updated
  FROM sys.stats s JOIN sys.objects o ON o.object_id = s.object_id LEFT JOIN sys.stats_columns c ON c.object_id = s.object_id AND c.stats_id = s.stats_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') ORDER BY s.object_id, s.stats_id, c.stats_column_id`

	askGrants = `SELECT CAST(g.class AS int) AS class, g.major_id, g.minor_id, e.name AS grantee, b.name AS grantor, g.permission_name, g.state
  FROM sys.database_permissions g JOIN sys.database_principals e ON e.principal_id = g.grantee_principal_id LEFT JOIN sys.database_principals b ON b.principal_id = g.grantor_principal_id
  WHERE g.class IN (1, 3) AND g.major_id > 0 ORDER BY g.class, g.major_id, g.minor_id, e.name, g.permission_name`

	// What a user may not be let see (VIEW DATABASE STATE, VIEW SERVER STATE).
	askSizes = `SELECT s.object_id, s.index_id, SUM(s.row_count) AS rows, SUM(s.used_page_count) AS pages
  FROM sys.dm_db_partition_stats s JOIN sys.objects o ON o.object_id = s.object_id
  WHERE o.is_ms_shipped = 0 AND o.type IN ('U', 'V') GROUP BY s.object_id, s.index_id ORDER BY s.object_id, s.index_id`

	askUsage = `SELECT u.object_id, u.index_id, u.user_seeks + u.user_scans + u.user_lookups AS reads
  FROM sys.dm_db_index_usage_stats u WHERE u.database_id = DB_ID() ORDER BY u.object_id, u.index_id`

	askStarted = `SELECT DATEDIFF(minute, i.sqlserver_start_time, GETDATE()) AS minutes FROM sys.dm_os_sys_info i`
)
