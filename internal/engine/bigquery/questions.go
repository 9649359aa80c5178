package bigquery

// The questions of a survey, each put once a dataset; %s is the dataset's INFORMATION_SCHEMA.
const (
	// https://cloud.google.com/bigquery/docs/information-schema-tables
	askTables = `SELECT table_name, table_type, ddl FROM %s.TABLES ORDER BY table_name`
	// https://cloud.google.com/bigquery/docs/information-schema-columns; what is not there is null, or
	// the text NULL
	askColumns = `SELECT table_name, column_name, is_nullable, data_type, is_generated, generation_expression, is_hidden, is_partitioning_column, clustering_ordinal_position, collation_name, column_default
  FROM %s.COLUMNS ORDER BY table_name, ordinal_position`
	// https://cloud.google.com/bigquery/docs/information-schema-column-field-paths
	askFields = `SELECT table_name, column_name, field_path, data_type, description, rounding_mode, policy_tags FROM %s.COLUMN_FIELD_PATHS ORDER BY table_name, column_name, field_path`
	// https://cloud.google.com/bigquery/docs/information-schema-table-options
	askOptions = `SELECT table_name, option_name, option_value FROM %s.TABLE_OPTIONS ORDER BY table_name, option_name`
	// https://cloud.google.com/bigquery/docs/information-schema-table-constraints
	askConstraints = `SELECT table_name, constraint_name, constraint_type FROM %s.TABLE_CONSTRAINTS ORDER BY table_name, constraint_name`
	// https://cloud.google.com/bigquery/docs/information-schema-key-column-usage
	askKeyColumns = `SELECT constraint_name, column_name, position_in_unique_constraint FROM %s.KEY_COLUMN_USAGE ORDER BY constraint_name, ordinal_position`
	// https://cloud.google.com/bigquery/docs/information-schema-constraint-column-usage: of a foreign key,
	// the columns that it refers to
	askTargets = `SELECT constraint_name, table_schema, table_name, column_name FROM %s.CONSTRAINT_COLUMN_USAGE ORDER BY constraint_name, column_name`
	// https://cloud.google.com/bigquery/docs/information-schema-views
	askViews = `SELECT table_name, view_definition FROM %s.VIEWS ORDER BY table_name`
	// https://cloud.google.com/bigquery/docs/information-schema-routines
	askRoutines = `SELECT routine_name, routine_type, routine_body, ddl FROM %s.ROUTINES ORDER BY routine_name`
	// https://cloud.google.com/bigquery/docs/information-schema-partitions
	askPartitions = `SELECT table_name, count(*) AS parts FROM %s.PARTITIONS WHERE partition_id IS NOT NULL GROUP BY table_name ORDER BY table_name`
	// https://cloud.google.com/bigquery/docs/information-schema-table-storage: %s is the region, %s
	// the dataset as a text
	askStorage = "SELECT table_name, total_rows, total_logical_bytes FROM `region-%s`.INFORMATION_SCHEMA.TABLE_STORAGE WHERE table_schema = %s AND NOT deleted ORDER BY table_name"
)
