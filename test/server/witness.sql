-- What a database is, by the system tables themselves: of each row of each table that
-- describes structure every column, but for what follows from others or changes by itself;
-- numbers of objects as the engine calls them. It names no column of a newer version: what
-- that adds is in it.
CREATE FUNCTION pg_temp.nexdal_witness(rights boolean) RETURNS SETOF text LANGUAGE plpgsql SET enable_hashjoin = off SET enable_mergejoin = off AS $$
DECLARE
  -- places, sizes, moments, what numbers others, and what the engine's own texts say below
  unstable text[] := '{oid,relfilenode,relpages,reltuples,relallvisible,relallfrozen,relfrozenxid,relminmxid,reltoastrelid,relrewrite,relhasindex,relhasrules,relhastriggers,relhassubclass,relchecks,relnatts,
    attnum,attcacheoff,atthasmissing,attmissingval,attlen,attbyval,attalign,conkey,confkey,confdelsetcols,conbin,conindid,indkey,indexprs,indpred,indcheckxmin,ev_qual,ev_action,tgqual,tgargs,tgnargs,tgattr,tgconstrindid,tgparentid,
    adnum,adbin,stxkeys,stxexprs,polqual,polwithcheck,partattrs,partexprs,relpartbound,relacl,attacl,nspacl,proacl,typacl,lanacl,srvacl,fdwacl,defaclacl,typdefaultbin,proargdefaults,prosqlbody,prqual,prattrs,
    enumsortorder,relowner,nspowner,proowner,typowner,stxowner,collowner,oprowner,opcowner,opfowner,evtowner,extowner,srvowner,fdwowner,pubowner,conowner,lanowner,cfgowner,dictowner,typarray,rngmultitypid,typdefault}';
  of record; line record; part record; query text; parts text[]; said text; ids jsonb;
BEGIN
  SELECT jsonb_object_agg(oid::text, name) INTO ids FROM (
    SELECT oid, oid::regclass::text AS name FROM pg_class UNION ALL SELECT oid, oid::regtype::text FROM pg_type UNION ALL SELECT oid, oid::regprocedure::text FROM pg_proc
    UNION ALL SELECT oid, nspname FROM pg_namespace UNION ALL SELECT oid, conname || ' on ' || conrelid::regclass FROM pg_constraint UNION ALL SELECT oid, rolname FROM pg_roles
    UNION ALL SELECT oid, collname FROM pg_collation UNION ALL SELECT oid, opcname FROM pg_opclass UNION ALL SELECT oid, oid::regoperator::text FROM pg_operator UNION ALL SELECT oid, amname FROM pg_am
    UNION ALL SELECT oid, lanname FROM pg_language UNION ALL SELECT oid, pubname FROM pg_publication UNION ALL SELECT oid, spcname FROM pg_tablespace UNION ALL SELECT oid, tgname || ' on ' || tgrelid::regclass FROM pg_trigger WHERE NOT tgisinternal
    UNION ALL SELECT oid, srvname FROM pg_foreign_server UNION ALL SELECT oid, opfname FROM pg_opfamily UNION ALL SELECT oid, fdwname FROM pg_foreign_data_wrapper
    UNION ALL SELECT oid, cfgname FROM pg_ts_config UNION ALL SELECT oid, dictname FROM pg_ts_dict) all_of_them WHERE oid >= 16384; -- what comes with the engine keeps its numbers
  FOR of IN SELECT c.oid, c.relname FROM pg_class c WHERE c.relnamespace = 'pg_catalog'::regnamespace AND c.relkind = 'r' AND NOT c.relisshared
      AND c.relname NOT IN ('pg_depend', 'pg_statistic', 'pg_statistic_ext_data', 'pg_init_privs', 'pg_largeobject', 'pg_largeobject_metadata', 'pg_description', 'pg_seclabel', 'pg_default_acl', 'pg_publication_rel', 'pg_attrdef')
      AND EXISTS (SELECT FROM pg_attribute WHERE attrelid = c.oid AND attnum > 0) ORDER BY c.relname LOOP
    query := format('SELECT to_jsonb(x) AS row, row_number() OVER () AS n FROM pg_catalog.%I x', of.relname);
    query := query || CASE of.relname
      WHEN 'pg_attribute' THEN ' WHERE attnum > 0 AND NOT attisdropped AND attrelid >= 16384 AND (SELECT relkind NOT IN (''t'', ''i'', ''I'', ''S'') FROM pg_class WHERE oid = attrelid) AND NOT EXISTS (SELECT FROM pg_class WHERE oid = attrelid AND relpersistence = ''t'')'
      WHEN 'pg_class' THEN ' WHERE oid >= 16384 AND relkind <> ''t'' AND relpersistence <> ''t'' AND relnamespace <> ''pg_toast''::regnamespace'
      WHEN 'pg_index' THEN ' WHERE indexrelid >= 16384 AND (SELECT relnamespace <> ''pg_toast''::regnamespace FROM pg_class WHERE oid = indrelid)'
      WHEN 'pg_namespace' THEN ' WHERE nspname NOT LIKE ''pg\_%'' AND nspname <> ''information_schema'''
      WHEN 'pg_trigger' THEN ' WHERE NOT tgisinternal' WHEN 'pg_sequence' THEN '' WHEN 'pg_inherits' THEN '' WHEN 'pg_partitioned_table' THEN '' WHEN 'pg_foreign_table' THEN ''
      WHEN 'pg_range' THEN ' WHERE rngtypid >= 16384' WHEN 'pg_aggregate' THEN ' WHERE aggfnoid::oid >= 16384' WHEN 'pg_ts_config_map' THEN ' WHERE mapcfg >= 16384'
      WHEN 'pg_proc' THEN ' WHERE oid >= 16384 AND pronamespace <> pg_my_temp_schema()' WHEN 'pg_rewrite' THEN ' WHERE oid >= 16384'
      WHEN 'pg_enum' THEN '' ELSE CASE WHEN EXISTS (SELECT FROM pg_attribute WHERE attrelid = of.oid AND attname = 'oid') THEN ' WHERE oid >= 16384' ELSE '' END END;
    IF query LIKE '% oid >= 16384%' THEN
      query := query || ' AND NOT EXISTS (SELECT FROM pg_depend e WHERE e.classid = ' || of.oid || ' AND e.objid = x.oid AND e.deptype = ''e'')';
    END IF;
    FOR line IN EXECUTE query LOOP
      parts := '{}';
      FOR part IN SELECT a.attname, a.atttypid, line.row ->> a.attname AS value FROM pg_attribute a WHERE a.attrelid = of.oid AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attnum LOOP
        CONTINUE WHEN part.value IS NULL OR part.attname = ANY(unstable);
        CONTINUE WHEN part.attname = 'connoinherit' AND line.row ->> 'contype' IN ('p', 'u', 'f'); -- of which it says nothing
        -- the toast table's, and the rows of a type for a table's rows, say nothing of their own
        IF part.atttypid IN ('oid'::regtype, 'regproc'::regtype) AND part.value ~ '^\d+$' THEN
          part.value := coalesce(ids ->> part.value, part.value);
        ELSIF part.atttypid IN ('oidvector'::regtype, 'oid[]'::regtype, 'name[]'::regtype) THEN
          SELECT string_agg(coalesce(ids ->> m[1], m[1]), ' ') INTO said FROM regexp_matches(part.value, '[^ ,{}"\[\]]+', 'g') m;
          part.value := said;
        END IF;
        parts := parts || (part.attname || '=' || part.value);
      END LOOP;
      said := CASE of.relname
        WHEN 'pg_constraint' THEN pg_get_constraintdef((line.row ->> 'oid')::oid)
        WHEN 'pg_index' THEN pg_get_indexdef((line.row ->> 'indexrelid')::oid)
        WHEN 'pg_trigger' THEN pg_get_triggerdef((line.row ->> 'oid')::oid)
        WHEN 'pg_rewrite' THEN pg_get_ruledef((line.row ->> 'oid')::oid)
        WHEN 'pg_proc' THEN CASE WHEN line.row ->> 'prokind' <> 'a' THEN pg_get_functiondef((line.row ->> 'oid')::oid) END
        WHEN 'pg_statistic_ext' THEN pg_get_statisticsobjdef((line.row ->> 'oid')::oid)
        WHEN 'pg_partitioned_table' THEN pg_get_partkeydef((line.row ->> 'partrelid')::oid)
        WHEN 'pg_policy' THEN (SELECT concat_ws(' / ', pg_get_expr(polqual, polrelid), pg_get_expr(polwithcheck, polrelid)) FROM pg_policy WHERE oid = (line.row ->> 'oid')::oid)
        WHEN 'pg_type' THEN (SELECT pg_get_expr(typdefaultbin, 0) FROM pg_type WHERE oid = (line.row ->> 'oid')::oid)
        WHEN 'pg_class' THEN (SELECT pg_get_expr(relpartbound, oid) FROM pg_class WHERE oid = (line.row ->> 'oid')::oid)
        WHEN 'pg_attribute' THEN (SELECT pg_get_expr(d.adbin, d.adrelid) FROM pg_attrdef d WHERE d.adrelid = (line.row ->> 'attrelid')::oid AND d.adnum = (line.row ->> 'attnum')::int) END;
      RETURN NEXT of.relname || ': ' || array_to_string(parts, ', ') || coalesce(' | ' || said, '');
    END LOOP;
  END LOOP;
  -- the order of columns, of labels, and what the columns of a table hold from before
  RETURN QUERY SELECT 'CREATE TABLE ' || attrelid::regclass || ' (' || string_agg(attname, ', ' ORDER BY attnum) || ')' FROM pg_attribute JOIN pg_class c ON c.oid = attrelid
    WHERE attnum > 0 AND NOT attisdropped AND c.oid >= 16384 AND c.relkind NOT IN ('t', 'i', 'I') AND c.relpersistence <> 't' GROUP BY attrelid;
  RETURN QUERY SELECT 'labels of ' || enumtypid::regtype || ': ' || string_agg(enumlabel, ', ' ORDER BY enumsortorder) FROM pg_enum GROUP BY enumtypid;
  RETURN QUERY SELECT 'ALTER TABLE ONLY ' || i.inhparent::regclass || ' ATTACH PARTITION ' || c.oid::regclass || ' ' || pg_get_expr(c.relpartbound, c.oid) FROM pg_class c JOIN pg_inherits i ON i.inhrelid = c.oid WHERE c.relispartition AND c.relkind NOT IN ('i', 'I');
  -- what belongs to what
  RETURN QUERY SELECT 'owned: ' || pg_describe_object(classid, objid, objsubid) || ' by ' || pg_describe_object(refclassid, refobjid, refobjsubid) FROM pg_depend
    WHERE classid = 'pg_class'::regclass AND deptype IN ('a', 'i') AND refobjsubid > 0 AND (SELECT relkind = 'S' FROM pg_class WHERE oid = objid) OR deptype = 'x';
  RETURN QUERY SELECT 'COMMENT ON ' || pg_describe_object(classoid, objoid, objsubid) || ' IS ' || description FROM pg_description
    WHERE CASE WHEN objoid >= 16384 OR classoid = 'pg_namespace'::regclass THEN pg_describe_object(classoid, objoid, objsubid) IS NOT NULL END;
  RETURN QUERY SELECT 'CREATE PUBLICATION ' || pubname || ' ' || to_jsonb(t)::text FROM pg_publication_tables t;
  IF rights THEN
    RETURN QUERY SELECT 'GRANT ' || CASE WHEN c.relkind = 'S' THEN 'sequence ' ELSE '' END || c.oid::regclass || ' ' || acl::text FROM pg_class c, unnest(coalesce(relacl, acldefault(CASE WHEN relkind = 'S' THEN 's' ELSE 'r' END::"char", relowner))) acl
      WHERE c.oid >= 16384 AND relkind IN ('r', 'p', 'v', 'm', 'S', 'f') AND relpersistence <> 't';
    RETURN QUERY SELECT 'GRANT ' || attrelid::regclass || '.' || attname || ' ' || acl::text FROM pg_attribute, unnest(attacl) acl WHERE attrelid >= 16384;
    RETURN QUERY SELECT 'GRANT schema ' || nspname || ' ' || acl::text FROM pg_namespace, unnest(coalesce(nspacl, acldefault('n', nspowner))) acl WHERE oid >= 16384 AND nspname NOT LIKE 'pg\_%';
    RETURN QUERY SELECT 'GRANT ' || oid::regprocedure || ' ' || acl::text FROM pg_proc, unnest(coalesce(proacl, acldefault('f', proowner))) acl WHERE oid >= 16384 AND pronamespace <> pg_my_temp_schema() AND NOT EXISTS (SELECT FROM pg_depend WHERE objid = pg_proc.oid AND deptype = 'e');
    RETURN QUERY SELECT 'ALTER DEFAULT PRIVILEGES ' || to_jsonb(d)::text FROM (SELECT defaclrole::regrole, defaclnamespace::regnamespace, defaclobjtype, defaclacl FROM pg_default_acl) d;
    RETURN QUERY SELECT 'ALTER ' || c.oid::regclass || ' OWNER TO ' || relowner::regrole FROM pg_class c WHERE oid >= 16384 AND relkind NOT IN ('i', 'I', 't') AND relpersistence <> 't';
    RETURN QUERY SELECT 'ALTER ' || oid::regprocedure || ' OWNER TO ' || proowner::regrole FROM pg_proc WHERE oid >= 16384 AND pronamespace <> pg_my_temp_schema() AND NOT EXISTS (SELECT FROM pg_depend WHERE objid = pg_proc.oid AND deptype = 'e');
    RETURN QUERY SELECT 'SECURITY LABEL ' || pg_describe_object(classoid, objoid, objsubid) || ' ' || provider || ' ' || label FROM pg_seclabel;
  END IF;
END $$;
SELECT DISTINCT w FROM pg_temp.nexdal_witness(:rights) w ORDER BY 1;
