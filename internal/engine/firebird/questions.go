package firebird

// The questions of a survey: each is put once, whatever the size of the catalog. The system tables
// are those of
// https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-appx04-systables,
// each with a section of its own under its name. Names are padded there with blanks.
const (
	askServer = `SELECT rdb$get_context('SYSTEM', 'ENGINE_VERSION') AS version, m.mon$page_size, m.mon$ods_major, m.mon$ods_minor, m.mon$sql_dialect, m.mon$read_only, m.mon$forced_writes,
  TRIM(TRAILING FROM d.rdb$character_set_name) AS charset, d.rdb$description AS says
  FROM rdb$database d CROSS JOIN mon$database m`

	askCharsets = `SELECT c.rdb$character_set_id, TRIM(TRAILING FROM c.rdb$character_set_name) AS name, TRIM(TRAILING FROM c.rdb$default_collate_name) AS usual, c.rdb$bytes_per_character, c.rdb$system_flag
  FROM rdb$character_sets c ORDER BY c.rdb$character_set_id`

	askCollations = `SELECT c.rdb$character_set_id, c.rdb$collation_id, TRIM(TRAILING FROM c.rdb$collation_name) AS name, c.rdb$collation_attributes, TRIM(TRAILING FROM c.rdb$base_collation_name) AS base, c.rdb$specific_attributes, c.rdb$system_flag, c.rdb$description
  FROM rdb$collations c ORDER BY c.rdb$character_set_id, c.rdb$collation_id`

	// Most columns have a domain that the engine made for them.
	askDomains = `SELECT TRIM(TRAILING FROM f.rdb$field_name) AS name, f.rdb$field_type, f.rdb$field_sub_type, f.rdb$field_length, f.rdb$character_length, f.rdb$field_precision, f.rdb$field_scale, f.rdb$character_set_id, f.rdb$collation_id, f.rdb$dimensions,
  f.rdb$null_flag, f.rdb$default_source, f.rdb$validation_source, f.rdb$computed_source, f.rdb$segment_length, f.rdb$description, TRIM(TRAILING FROM f.rdb$owner_name) AS owner
  FROM rdb$fields f WHERE COALESCE(f.rdb$system_flag, 0) = 0 ORDER BY f.rdb$field_name`

	askDimensions = `SELECT TRIM(TRAILING FROM d.rdb$field_name) AS name, d.rdb$dimension, d.rdb$lower_bound, d.rdb$upper_bound
  FROM rdb$field_dimensions d ORDER BY d.rdb$field_name, d.rdb$dimension`

	askRelations = `SELECT TRIM(TRAILING FROM r.rdb$relation_name) AS name, r.rdb$relation_type, r.rdb$view_source, TRIM(TRAILING FROM r.rdb$external_file) AS file, r.rdb$description, TRIM(TRAILING FROM r.rdb$owner_name) AS owner, TRIM(TRAILING FROM r.rdb$security_class) AS class
  FROM rdb$relations r WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY r.rdb$relation_name`

	askColumns = `SELECT TRIM(TRAILING FROM c.rdb$relation_name) AS relation, TRIM(TRAILING FROM c.rdb$field_name) AS name, TRIM(TRAILING FROM c.rdb$field_source) AS source, c.rdb$field_position, c.rdb$null_flag, c.rdb$default_source, c.rdb$collation_id, c.rdb$identity_type, TRIM(TRAILING FROM c.rdb$generator_name) AS generator, c.rdb$description
  FROM rdb$relation_fields c JOIN rdb$relations r ON r.rdb$relation_name = c.rdb$relation_name
  WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY c.rdb$relation_name, c.rdb$field_position, c.rdb$field_name`

	askConstraints = `SELECT TRIM(TRAILING FROM k.rdb$relation_name) AS relation, TRIM(TRAILING FROM k.rdb$constraint_name) AS name, TRIM(TRAILING FROM k.rdb$constraint_type) AS kind, TRIM(TRAILING FROM k.rdb$index_name) AS index_name,
  TRIM(TRAILING FROM f.rdb$const_name_uq) AS target, TRIM(TRAILING FROM f.rdb$update_rule) AS on_update, TRIM(TRAILING FROM f.rdb$delete_rule) AS on_delete, TRIM(TRAILING FROM f.rdb$match_option) AS matches
  FROM rdb$relation_constraints k LEFT JOIN rdb$ref_constraints f ON f.rdb$constraint_name = k.rdb$constraint_name
  JOIN rdb$relations r ON r.rdb$relation_name = k.rdb$relation_name
  WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY k.rdb$relation_name, k.rdb$constraint_name`

	// A check is kept as two triggers, and what forbids null as the name of the column.
	askChecks = `SELECT TRIM(TRAILING FROM c.rdb$constraint_name) AS name, TRIM(TRAILING FROM c.rdb$trigger_name) AS by_trigger, t.rdb$trigger_source, t.rdb$trigger_type
  FROM rdb$check_constraints c JOIN rdb$relation_constraints k ON k.rdb$constraint_name = c.rdb$constraint_name LEFT JOIN rdb$triggers t ON t.rdb$trigger_name = c.rdb$trigger_name AND k.rdb$constraint_type = 'CHECK'
  WHERE k.rdb$constraint_type IN ('CHECK', 'NOT NULL') ORDER BY c.rdb$constraint_name, c.rdb$trigger_name`

	askIndexes = `SELECT TRIM(TRAILING FROM x.rdb$relation_name) AS relation, TRIM(TRAILING FROM x.rdb$index_name) AS name, x.rdb$unique_flag, x.rdb$index_inactive, x.rdb$index_type, TRIM(TRAILING FROM x.rdb$foreign_key) AS refers, x.rdb$expression_source, x.rdb$statistics, x.rdb$description
  FROM rdb$indices x JOIN rdb$relations r ON r.rdb$relation_name = x.rdb$relation_name
  WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY x.rdb$relation_name, x.rdb$index_name`

	askIndexColumns = `SELECT TRIM(TRAILING FROM s.rdb$index_name) AS name, TRIM(TRAILING FROM s.rdb$field_name) AS field, s.rdb$field_position
  FROM rdb$index_segments s JOIN rdb$indices x ON x.rdb$index_name = s.rdb$index_name JOIN rdb$relations r ON r.rdb$relation_name = x.rdb$relation_name
  WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY s.rdb$index_name, s.rdb$field_position`

	askTriggers = `SELECT TRIM(TRAILING FROM t.rdb$trigger_name) AS name, TRIM(TRAILING FROM t.rdb$relation_name) AS relation, t.rdb$trigger_sequence, t.rdb$trigger_type, t.rdb$trigger_source, t.rdb$trigger_inactive, t.rdb$valid_blr, TRIM(TRAILING FROM t.rdb$engine_name) AS engine, t.rdb$description
  FROM rdb$triggers t WHERE COALESCE(t.rdb$system_flag, 0) = 0 ORDER BY t.rdb$trigger_name`

	askProcedures = `SELECT TRIM(TRAILING FROM p.rdb$procedure_name) AS name, p.rdb$procedure_source, p.rdb$valid_blr, TRIM(TRAILING FROM p.rdb$engine_name) AS engine, TRIM(TRAILING FROM p.rdb$owner_name) AS owner, p.rdb$description
  FROM rdb$procedures p WHERE COALESCE(p.rdb$system_flag, 0) = 0 AND p.rdb$package_name IS NULL ORDER BY p.rdb$procedure_name`

	askParameters = `SELECT TRIM(TRAILING FROM a.rdb$procedure_name) AS name, TRIM(TRAILING FROM a.rdb$parameter_name) AS called, a.rdb$parameter_type, a.rdb$parameter_number, TRIM(TRAILING FROM a.rdb$field_source) AS source, a.rdb$default_source, a.rdb$collation_id, a.rdb$null_flag, a.rdb$parameter_mechanism, TRIM(TRAILING FROM a.rdb$relation_name) AS of_relation, TRIM(TRAILING FROM a.rdb$field_name) AS of_field, a.rdb$description
  FROM rdb$procedure_parameters a WHERE COALESCE(a.rdb$system_flag, 0) = 0 AND a.rdb$package_name IS NULL ORDER BY a.rdb$procedure_name, a.rdb$parameter_type, a.rdb$parameter_number`

	askFunctions = `SELECT TRIM(TRAILING FROM f.rdb$function_name) AS name, f.rdb$function_source, f.rdb$valid_blr, TRIM(TRAILING FROM f.rdb$engine_name) AS engine, f.rdb$legacy_flag, f.rdb$deterministic_flag, f.rdb$return_argument, TRIM(TRAILING FROM f.rdb$owner_name) AS owner, f.rdb$description
  FROM rdb$functions f WHERE COALESCE(f.rdb$system_flag, 0) = 0 AND f.rdb$package_name IS NULL ORDER BY f.rdb$function_name`

	askArguments = `SELECT TRIM(TRAILING FROM a.rdb$function_name) AS name, TRIM(TRAILING FROM a.rdb$argument_name) AS argument, a.rdb$argument_position, TRIM(TRAILING FROM a.rdb$field_source) AS source, a.rdb$default_source, a.rdb$collation_id, a.rdb$null_flag, a.rdb$argument_mechanism, TRIM(TRAILING FROM a.rdb$relation_name) AS of_relation, TRIM(TRAILING FROM a.rdb$field_name) AS of_field, a.rdb$description
  FROM rdb$function_arguments a WHERE COALESCE(a.rdb$system_flag, 0) = 0 AND a.rdb$package_name IS NULL ORDER BY a.rdb$function_name, a.rdb$argument_position`

	askPackages = `SELECT TRIM(TRAILING FROM p.rdb$package_name) AS name, p.rdb$package_header_source, p.rdb$package_body_source, p.rdb$valid_body_flag, TRIM(TRAILING FROM p.rdb$owner_name) AS owner, p.rdb$description
  FROM rdb$packages p WHERE COALESCE(p.rdb$system_flag, 0) = 0 ORDER BY p.rdb$package_name`

	askExceptions = `SELECT TRIM(TRAILING FROM e.rdb$exception_name) AS name, e.rdb$message, TRIM(TRAILING FROM e.rdb$owner_name) AS owner, e.rdb$description
  FROM rdb$exceptions e WHERE COALESCE(e.rdb$system_flag, 0) = 0 ORDER BY e.rdb$exception_name`

	// 6 marks those of identity columns.
	askGenerators = `SELECT TRIM(TRAILING FROM g.rdb$generator_name) AS name, g.rdb$initial_value, g.rdb$generator_increment, g.rdb$system_flag, TRIM(TRAILING FROM g.rdb$owner_name) AS owner, g.rdb$description
  FROM rdb$generators g WHERE COALESCE(g.rdb$system_flag, 0) IN (0, 6) ORDER BY g.rdb$generator_name`

	// Where a generator stands is known to itself alone: a block asks all of them.
	askNumbers = `EXECUTE BLOCK RETURNS (name VARCHAR(252), number BIGINT) AS
DECLARE quoted VARCHAR(520);
BEGIN
  FOR SELECT TRIM(TRAILING FROM g.rdb$generator_name), REPLACE(TRIM(TRAILING FROM g.rdb$generator_name), '"', '""') FROM rdb$generators g WHERE COALESCE(g.rdb$system_flag, 0) IN (0, 6) ORDER BY g.rdb$generator_name INTO :name, :quoted DO
  BEGIN
    number = NULL;
    BEGIN
      EXECUTE STATEMENT 'SELECT GEN_ID("' || quoted || '", 0) FROM rdb$database' INTO :number;
      WHEN ANY DO BEGIN END
    END
    SUSPEND;
  END
END`

	askDependencies = `SELECT DISTINCT TRIM(TRAILING FROM d.rdb$dependent_name) AS name, d.rdb$dependent_type, TRIM(TRAILING FROM d.rdb$depended_on_name) AS needs, d.rdb$depended_on_type, TRIM(TRAILING FROM d.rdb$field_name) AS field
  FROM rdb$dependencies d ORDER BY 1, 2, 3, 4, 5`

	askGrants = `SELECT TRIM(TRAILING FROM g.rdb$user) AS grantee, g.rdb$user_type, TRIM(TRAILING FROM g.rdb$grantor) AS grantor, TRIM(TRAILING FROM g.rdb$privilege) AS privilege, g.rdb$grant_option, TRIM(TRAILING FROM g.rdb$relation_name) AS name, g.rdb$object_type, TRIM(TRAILING FROM g.rdb$field_name) AS field
  FROM rdb$user_privileges g WHERE g.rdb$relation_name NOT STARTING WITH 'RDB$' AND g.rdb$relation_name NOT STARTING WITH 'MON$' AND g.rdb$relation_name NOT STARTING WITH 'SEC$' ORDER BY 6, 7, 1, 2, 4, 8, 3`

	askRoles = `SELECT TRIM(TRAILING FROM r.rdb$role_name) AS name, TRIM(TRAILING FROM r.rdb$owner_name) AS owner, r.rdb$description
  FROM rdb$roles r WHERE COALESCE(r.rdb$system_flag, 0) = 0 ORDER BY r.rdb$role_name`

	// What is counted alone, and told as not read.
	askOthers = `SELECT 'blob filter' AS kind, COUNT(*) AS many FROM rdb$filters UNION ALL SELECT 'mapping', COUNT(*) FROM rdb$auth_mapping m WHERE COALESCE(m.rdb$system_flag, 0) = 0 UNION ALL SELECT 'shadow', COUNT(*) FROM rdb$files f WHERE COALESCE(f.rdb$shadow_number, 0) > 0 ORDER BY 1`
)
