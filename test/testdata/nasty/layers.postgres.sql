-- Two schemas with tables of the same names, references across them that set some columns to null, transition tables,
-- expressions with statistics of their own, collations that do not tell capitals apart, functions that return tables
-- and take types from columns, sequences that several tables draw from, publications of a whole schema, comments on
-- everything that can have one, indexes that are parts of others, and a key that others cluster by.
-- as tide_clerk: INSERT INTO harbour.visit (ship, berth_no, pier) VALUES ('new', 3, 'D'); UPDATE harbour.visit SET note = 'moved' WHERE berth_no = 5; SELECT * FROM harbour.visits_of(3)
-- as tide_clerk: INSERT INTO harbour.call (ship) VALUES ('called'); SELECT count(*) FROM yard.visit; SELECT harbour.longest('a', 'bbb')
-- as : DELETE FROM harbour.berth WHERE berth_no = 135; INSERT INTO yard.visit (ship, hours, berth_no) VALUES ('Y1', 5, 3); UPDATE yard.visit SET hours = 6 WHERE visit_no = 3; INSERT INTO harbour.light VALUES ('LAMP', B'101', '(1,2)', '08:00:2b:01:02:03', '[5000,5001)')
-- as : INSERT INTO harbour.tide (station, at, level) VALUES (3, '2026-05-01', 4), (4, '2027-05-01', 4); INSERT INTO harbour.tide_first VALUES (1, '2026-02-01', 2); SELECT * FROM harbour.busy; CALL harbour.close_berth(9); SELECT harbour.archive(); DELETE FROM yard.paint WHERE colour = 'c5'
-- goes: (visit_visit_no_seq|light_code_key|tide_again) OWNER TO|REPLICA IDENTITY USING INDEX visit_no_u
-- stays: .*tide_rest_level_idx.*
-- from postgres 15
SET client_min_messages = error;
DO $$ BEGIN CREATE ROLE tide_clerk; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$;
CREATE SCHEMA harbour; CREATE SCHEMA yard;
GRANT USAGE ON SCHEMA harbour, yard TO tide_clerk;
CREATE COLLATION harbour.loose (provider = icu, locale = 'und-u-ks-level2', deterministic = false);
COMMENT ON SCHEMA yard IS 'where ships are mended'; COMMENT ON COLLATION harbour.loose IS 'capitals are alike';
CREATE SEQUENCE harbour.numbers AS int START 1000 INCREMENT 5 CACHE 10;
COMMENT ON SEQUENCE harbour.numbers IS 'of calls and visits of the yard';

CREATE TABLE harbour.berth (
    berth_no int NOT NULL,
    pier text COLLATE harbour.loose NOT NULL,
    depth numeric(6,2) DEFAULT 4.50,
    area numeric GENERATED ALWAYS AS (depth * 10) STORED,
    marks bit varying(12) DEFAULT B'1010',
    CONSTRAINT berth_pk PRIMARY KEY (berth_no, pier),
    CONSTRAINT "berth: deep" CHECK (depth > 0 AND pier <> 'no; DROP TABLE berth')
) WITH (fillfactor = 81, toast_tuple_target = 1024);
INSERT INTO harbour.berth (berth_no, pier) SELECT i, chr(97 + i % 5) FROM generate_series(1, 140) i;
CREATE UNIQUE INDEX berth_no_only ON harbour.berth (berth_no);
ALTER TABLE harbour.berth CLUSTER ON berth_no_only;
CREATE INDEX berth_deep ON harbour.berth ((depth * 2), lower(pier)) WHERE depth > 1;
ALTER INDEX harbour.berth_deep ALTER COLUMN 1 SET STATISTICS 444;
CREATE INDEX berth_deep_short ON harbour.berth ((depth * 2)) WHERE depth > 1;
ALTER INDEX harbour.berth_deep_short ALTER COLUMN 1 SET STATISTICS 77;
COMMENT ON INDEX harbour.berth_deep IS 'for the pilots';
COMMENT ON CONSTRAINT "berth: deep" ON harbour.berth IS 'no berth falls dry';
COMMENT ON COLUMN harbour.berth.marks IS E'tab\there, \\back, ''quote''';

CREATE TABLE harbour.visit (
    visit_no serial,
    ship varchar(60) NOT NULL,
    berth_no int,
    pier text COLLATE harbour.loose,
    kind char(3) DEFAULT 'in',
    note text,
    since timestamptz DEFAULT now(),
    CONSTRAINT visit_berth FOREIGN KEY (berth_no, pier) REFERENCES harbour.berth (berth_no, pier) MATCH SIMPLE ON DELETE SET NULL (berth_no) ON UPDATE CASCADE
);
INSERT INTO harbour.visit (ship, berth_no, pier) SELECT 's' || i, 1 + i % 140, (SELECT pier FROM harbour.berth b WHERE b.berth_no = 1 + i % 140) FROM generate_series(1, 260) i;
CREATE UNIQUE INDEX visit_no_u ON harbour.visit (visit_no);
ALTER TABLE harbour.visit REPLICA IDENTITY USING INDEX visit_no_u;
CREATE INDEX visit_ship ON harbour.visit (ship varchar_pattern_ops DESC NULLS LAST, berth_no);
CREATE INDEX visit_ship_again ON harbour.visit (ship varchar_pattern_ops DESC NULLS LAST);
CREATE INDEX visit_plain ON harbour.visit (ship);
ALTER TABLE harbour.visit ENABLE ROW LEVEL SECURITY;
CREATE POLICY visit_all ON harbour.visit FOR ALL TO tide_clerk USING (EXISTS (SELECT FROM harbour.berth b WHERE b.berth_no = visit.berth_no)) WITH CHECK (ship <> '');
COMMENT ON POLICY visit_all ON harbour.visit IS 'all that lie at a berth';

CREATE TABLE harbour.moved (at timestamptz DEFAULT now(), was jsonb, rows_moved int);
CREATE FUNCTION harbour.note_moves() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = harbour AS $$
BEGIN
    INSERT INTO moved (was, rows_moved) SELECT jsonb_agg(o), count(*) FROM gone o;
    RETURN NULL;
END $$;
CREATE TRIGGER note_moves AFTER UPDATE ON harbour.visit REFERENCING OLD TABLE AS gone NEW TABLE AS come FOR EACH STATEMENT EXECUTE FUNCTION harbour.note_moves();
CREATE TRIGGER note_cuts AFTER DELETE ON harbour.visit REFERENCING OLD TABLE AS gone FOR EACH STATEMENT WHEN (pg_trigger_depth() < 3) EXECUTE FUNCTION harbour.note_moves();
ALTER TABLE harbour.visit ENABLE ALWAYS TRIGGER note_cuts;
COMMENT ON TRIGGER note_moves ON harbour.visit IS 'who lay where';

CREATE TABLE harbour.call (call_no int DEFAULT nextval('harbour.numbers'), ship text COLLATE "C", tally smallint DEFAULT 0, PRIMARY KEY (call_no) INCLUDE (ship));
INSERT INTO harbour.call (ship) SELECT 's' || i FROM generate_series(1, 120) i;
CREATE RULE call_twice AS ON UPDATE TO harbour.call WHERE NEW.tally > 30000 DO ALSO INSERT INTO harbour.moved (rows_moved) VALUES (NEW.tally);
COMMENT ON RULE call_twice ON harbour.call IS 'nobody calls so often';

CREATE TABLE yard.visit (visit_no int DEFAULT nextval('harbour.numbers') NOT NULL, ship text COLLATE harbour.loose, hours int, berth_no bigint, harbour_visit int, UNIQUE (visit_no) DEFERRABLE, FOREIGN KEY (harbour_visit) REFERENCES harbour.visit (visit_no) ON DELETE SET DEFAULT NOT VALID);
INSERT INTO yard.visit (ship, hours, berth_no, harbour_visit) SELECT 's' || i, i % 40, 1 + i % 140, i FROM generate_series(1, 130) i;
UPDATE yard.visit SET hours = NULL WHERE hours = 3;
CREATE STATISTICS yard.visit_s (dependencies, mcv) ON hours, berth_no, (hours + 1) FROM yard.visit;
ALTER STATISTICS yard.visit_s SET STATISTICS 50;
COMMENT ON STATISTICS yard.visit_s IS 'they go together';

CREATE TABLE harbour.light (code text COLLATE harbour.loose UNIQUE, blink bit(3), at point, mac macaddr, span int4range, EXCLUDE USING gist (span WITH &&));
INSERT INTO harbour.light (code, blink, at, mac, span) SELECT 'L' || i, B'011', point(i, i), '08:00:2b:01:02:03', int4range(i, i + 1) FROM generate_series(1, 110) i;
CREATE INDEX light_at ON harbour.light USING spgist (at);
CREATE INDEX light_hash ON harbour.light USING hash (code);

CREATE TABLE harbour.tide (station int, at date, level int, UNIQUE (station, at)) PARTITION BY RANGE (at);
CREATE TABLE harbour.tide_first (station int, at date, level int, CONSTRAINT first_key UNIQUE (station, at));
CREATE INDEX first_level ON harbour.tide_first (level); CREATE INDEX first_level_again ON harbour.tide_first (level, station);
ALTER TABLE harbour.tide ATTACH PARTITION harbour.tide_first FOR VALUES FROM ('2026-01-01') TO ('2027-01-01');
CREATE TABLE yard.tide_rest PARTITION OF harbour.tide (CONSTRAINT not_low CHECK (level > -100)) DEFAULT WITH (autovacuum_vacuum_threshold = 5);
CREATE INDEX tide_level ON ONLY harbour.tide (level);
ALTER INDEX harbour.tide_level ATTACH PARTITION harbour.first_level;
CREATE INDEX tide_again ON harbour.tide (station, at, level);
INSERT INTO harbour.tide SELECT 1 + i % 30, date '2026-06-01' + i, i % 9 FROM generate_series(1, 330) i;
COMMENT ON TABLE yard.tide_rest IS 'what came too early or too late';
ALTER TABLE yard.tide_rest OWNER TO tide_clerk;

CREATE FUNCTION harbour.visits_of(of harbour.visit.berth_no%TYPE) RETURNS TABLE (ship text, pier text) LANGUAGE sql STABLE AS $$ SELECT v.ship, v.pier FROM harbour.visit v WHERE v.berth_no = $1 $$;
CREATE FUNCTION harbour.longest(VARIADIC names text[]) RETURNS text LANGUAGE sql IMMUTABLE AS $$ SELECT n FROM unnest(names) n ORDER BY length(n) DESC LIMIT 1 $$;
CREATE PROCEDURE harbour.close_berth(no int) LANGUAGE plpgsql AS $$
DECLARE b harbour.berth%ROWTYPE; last harbour.visit.visit_no%TYPE;
BEGIN
    SELECT * INTO b FROM harbour.berth WHERE berth_no = no;
    SELECT max(visit_no) INTO last FROM harbour.visit WHERE berth_no = no AND pier = b.pier;
    UPDATE harbour.visit SET note = 'last' WHERE visit_no = last;
END $$;
COMMENT ON PROCEDURE harbour.close_berth IS 'the last one goes';
CREATE TABLE harbour.moved_old (at timestamptz, was jsonb, rows_moved int);
CREATE FUNCTION harbour.archive() RETURNS void LANGUAGE plpgsql AS $$ BEGIN INSERT INTO harbour.moved_old SELECT m.* FROM harbour.moved m WHERE m.at < now(); END $$;
CREATE TABLE yard.paint (colour text, litres int);
INSERT INTO yard.paint SELECT 'c' || i, i % 20 FROM generate_series(1, 120) i;
CREATE TABLE yard.paint_old (what text, at timestamptz, colour text, litres int);
CREATE FUNCTION yard.keep_paint() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO yard.paint_old SELECT left(TG_OP, 1), now(), OLD.*; RETURN OLD; END $$;
CREATE TRIGGER keep_paint AFTER DELETE ON yard.paint FOR EACH ROW EXECUTE FUNCTION yard.keep_paint();
CREATE VIEW harbour.busy WITH (security_barrier) AS SELECT b.*, v.n FROM harbour.berth b JOIN LATERAL (SELECT count(*) AS n FROM harbour.visit v WHERE v.berth_no = b.berth_no AND v.pier = b.pier) v ON v.n > 1;
CREATE VIEW yard.open AS SELECT v, v.visit_no FROM yard.visit v WHERE hours IS NOT NULL WITH CASCADED CHECK OPTION;
COMMENT ON COLUMN yard.open.visit_no IS 'drawn from the harbour''s numbers';

GRANT SELECT, INSERT, UPDATE (note) ON harbour.visit TO tide_clerk;
GRANT SELECT ON harbour.berth, yard.visit, harbour.busy TO tide_clerk;
GRANT INSERT (ship), SELECT ON harbour.call TO tide_clerk WITH GRANT OPTION;
GRANT USAGE ON SEQUENCE harbour.numbers, harbour.visit_visit_no_seq TO tide_clerk;
REVOKE EXECUTE ON FUNCTION harbour.longest(text[]) FROM PUBLIC; GRANT EXECUTE ON FUNCTION harbour.longest(text[]) TO tide_clerk;
ALTER DEFAULT PRIVILEGES IN SCHEMA harbour GRANT SELECT ON TABLES TO tide_clerk;
CREATE PUBLICATION yard_out FOR TABLES IN SCHEMA yard WITH (publish = 'insert'); CREATE PUBLICATION calls_out FOR TABLE harbour.call (call_no) WHERE (call_no > 5);
ANALYZE;
