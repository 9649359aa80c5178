-- Owners, grants, comments, storage, replica identity, clustering order, publications.
-- goes: (SEQUENCE|sequence) saltmere\.lone_seq|lone_seq OWNER
-- goes: (common_seq|cyc_seq|station_station_id_seq) OWNER TO
-- goes: gauge_no_key
-- as tide_writer: INSERT INTO saltmere.station (code, name) VALUES ('new', 'New'); SELECT currval('saltmere.station_station_id_seq')
-- as tide_writer: UPDATE saltmere.station SET name = 'x' WHERE code = 'S1'
-- as tide_writer: INSERT INTO saltmere.part_a (what) VALUES ('n'); INSERT INTO saltmere.part_b (what) VALUES ('n')
-- as tide_writer: SELECT nextval('saltmere.common_seq')
-- as tide_writer: INSERT INTO saltmere.cyc (w) VALUES ('n')
-- as tide_reader: SELECT station_code FROM saltmere.visit; SELECT station_code FROM saltmere.visit_list; SELECT count(*) FROM saltmere.alert
-- as tide_reader: UPDATE saltmere.visit SET note = 'b' WHERE station_code = 'S1'
-- as : UPDATE saltmere.gauge SET model = 'M' WHERE gauge_no = 1; DELETE FROM saltmere.visit_list WHERE visit_id = 1
-- as : SELECT saltmere.visit_note(v) FROM saltmere.visit v
-- Roles are of the cluster: made once.
DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_reader; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA saltmere;
GRANT USAGE ON SCHEMA saltmere TO tide_reader, tide_writer, tide_owner;
SET client_min_messages = error;
SET search_path = saltmere;
-- 1. a serial whose sequence has an owner, grants, a comment, a cache, unlogged not
CREATE TABLE station (station_id serial PRIMARY KEY, code text NOT NULL UNIQUE, name text);
COMMENT ON SEQUENCE station_station_id_seq IS 'numbers of stations';
GRANT USAGE, SELECT ON SEQUENCE station_station_id_seq TO tide_writer;
GRANT SELECT, INSERT, UPDATE, DELETE ON station TO tide_writer;
GRANT SELECT ON station TO tide_reader WITH GRANT OPTION;
GRANT SELECT (code) ON station TO PUBLIC;
ALTER TABLE station OWNER TO tide_owner;
ALTER TABLE station CLUSTER ON station_code_key;
ALTER INDEX station_code_key SET (fillfactor = 70);
COMMENT ON CONSTRAINT station_code_key ON station IS 'the code on the plate';
COMMENT ON INDEX station_code_key IS 'index of the code';
INSERT INTO station (code, name) SELECT 'S' || i, 'Station ' || i FROM generate_series(1, 300) i;
-- 2. no primary key, a unique index with INCLUDE that is the replica identity
CREATE TABLE gauge (gauge_no int NOT NULL, model text, station_id int REFERENCES station);
CREATE UNIQUE INDEX gauge_no_key ON gauge (gauge_no) INCLUDE (model) WITH (fillfactor = 50);
ALTER TABLE gauge REPLICA IDENTITY USING INDEX gauge_no_key;
COMMENT ON INDEX gauge_no_key IS 'number on the gauge';
ALTER TABLE gauge CLUSTER ON gauge_no_key;
INSERT INTO gauge SELECT i, 'M' || i % 7, 1 + i % 300 FROM generate_series(1, 500) i;
CREATE PUBLICATION tides FOR TABLE gauge;
-- 3. repeated unique keys, one pinned by replica identity and one by cluster
CREATE TABLE keeper (keeper_id int NOT NULL, badge text NOT NULL, name text NOT NULL, CONSTRAINT keeper_pkey PRIMARY KEY (keeper_id), CONSTRAINT keeper_badge UNIQUE (badge));
ALTER TABLE keeper ADD CONSTRAINT keeper_badge_again UNIQUE (badge);
ALTER TABLE keeper REPLICA IDENTITY USING INDEX keeper_badge_again;
ALTER TABLE keeper CLUSTER ON keeper_badge;
COMMENT ON CONSTRAINT keeper_badge_again ON keeper IS 'the second';
COMMENT ON CONSTRAINT keeper_badge ON keeper IS 'the first';
INSERT INTO keeper SELECT i, 'B' || i, 'Keeper ' || i FROM generate_series(1, 200) i;
-- 4. a column of another type than its target, with views, a function, statistics, grants, a storage
CREATE TABLE visit (visit_id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, station_code varchar(10) NOT NULL, keeper_id bigint NOT NULL, note text);
ALTER TABLE visit ALTER COLUMN station_code SET STATISTICS 500;
ALTER TABLE visit ALTER COLUMN station_code SET STORAGE EXTERNAL;
/*14 ALTER TABLE visit ALTER COLUMN note SET COMPRESSION pglz;*/
GRANT SELECT (station_code), UPDATE (note) ON visit TO tide_reader;
CREATE STATISTICS visit_stats (dependencies) ON station_code, keeper_id FROM visit;
COMMENT ON COLUMN visit.station_code IS 'where';
CREATE FUNCTION visit_note(v visit) RETURNS text LANGUAGE sql AS 'SELECT $1.note';
INSERT INTO visit (station_code, keeper_id, note) SELECT 'S' || (1 + i % 300), 1 + i % 200, 'ok' FROM generate_series(1, 400) i;
ALTER TABLE visit ADD FOREIGN KEY (station_code) REFERENCES station (code);
ALTER TABLE visit ADD FOREIGN KEY (keeper_id) REFERENCES keeper (keeper_id);
CREATE TABLE sounding (sounding_id int PRIMARY KEY, station_code varchar(10) NOT NULL);
ALTER TABLE sounding ALTER COLUMN station_code SET STORAGE EXTERNAL;
/*14 ALTER TABLE sounding ALTER COLUMN station_code SET COMPRESSION pglz;*/
ALTER TABLE sounding ALTER COLUMN station_code SET STATISTICS 300;
ALTER TABLE sounding ALTER COLUMN station_code SET (n_distinct = 300);
GRANT SELECT (station_code) ON sounding TO tide_reader;
INSERT INTO sounding SELECT i, 'S' || (1 + i % 300) FROM generate_series(1, 400) i;
ALTER TABLE sounding ADD FOREIGN KEY (station_code) REFERENCES station (code);
-- 5. nullable never null, with a policy, a trigger and forced row security
CREATE TABLE alert (alert_id int PRIMARY KEY, level int, keeper_id int REFERENCES keeper, raised_at timestamptz DEFAULT now());
CREATE INDEX alert_level ON alert (level) WITH (fillfactor = 60);
CREATE INDEX alert_level_keeper ON alert (level, keeper_id);
COMMENT ON INDEX alert_level IS 'by level';
ALTER INDEX alert_level_keeper SET (/*13 deduplicate_items = off*//*-13 fillfactor = 75*/);
ALTER TABLE alert CLUSTER ON alert_level;
INSERT INTO alert SELECT i, i % 5, 1 + i % 200, now() FROM generate_series(1, 300) i;
ALTER TABLE alert ENABLE ROW LEVEL SECURITY;
CREATE POLICY alert_mine ON alert FOR SELECT TO tide_reader USING (level > 1);
GRANT SELECT ON alert TO tide_reader;
-- 6. sequences shared by two tables, not owned, with grants and a comment
CREATE SEQUENCE common_seq CACHE 5;
COMMENT ON SEQUENCE common_seq IS 'shared by two';
GRANT USAGE ON SEQUENCE common_seq TO tide_writer;
CREATE TABLE part_a (id int PRIMARY KEY DEFAULT nextval('common_seq'), what text);
CREATE TABLE part_b (id int PRIMARY KEY DEFAULT nextval('common_seq'), what text);
GRANT INSERT, SELECT ON part_a, part_b TO tide_writer;
INSERT INTO part_a (what) SELECT 'a' FROM generate_series(1, 50); INSERT INTO part_b (what) SELECT 'b' FROM generate_series(1, 50);
CREATE SEQUENCE lone_seq; COMMENT ON SEQUENCE lone_seq IS 'nobody uses it'; GRANT ALL ON SEQUENCE lone_seq TO tide_reader; ALTER SEQUENCE lone_seq OWNER TO tide_owner;
CREATE SEQUENCE cyc_seq CYCLE MAXVALUE 100000; CREATE TABLE cyc (id int PRIMARY KEY DEFAULT nextval('cyc_seq'), w text); GRANT USAGE ON SEQUENCE cyc_seq TO tide_writer; GRANT INSERT ON cyc TO tide_writer;
-- 7. wide key with publication
CREATE TABLE reading (a int NOT NULL, b int NOT NULL, c int NOT NULL, d int NOT NULL, level numeric, PRIMARY KEY (a, b, c, d));
CREATE TABLE reading_flag (a int NOT NULL, b int NOT NULL, c int NOT NULL, d int NOT NULL, flag text, FOREIGN KEY (a, b, c, d) REFERENCES reading);
INSERT INTO reading SELECT i, i, i, i, i FROM generate_series(1, 200) i; INSERT INTO reading_flag SELECT i, i, i, i, 'x' FROM generate_series(1, 200) i;
ALTER PUBLICATION tides ADD TABLE reading;
COMMENT ON CONSTRAINT reading_pkey ON reading IS 'wide';
ALTER TABLE reading CLUSTER ON reading_pkey;
-- 8. domain column, oid column
CREATE DOMAIN pos AS int CHECK (VALUE > 0);
CREATE TABLE calib (calib_id int PRIMARY KEY, keeper_id pos, blob oid, amount double precision);
INSERT INTO calib SELECT i, 1 + i % 200, NULL, i FROM generate_series(1, 150) i;
ALTER TABLE calib ADD FOREIGN KEY (keeper_id) REFERENCES keeper (keeper_id);
-- 9. a view over a column to be retyped, a rule, column privileges on a view
CREATE VIEW visit_list AS SELECT visit_id, station_code FROM visit;
GRANT SELECT (station_code) ON visit_list TO tide_reader;
CREATE RULE visit_del AS ON DELETE TO visit_list DO INSTEAD DELETE FROM visit WHERE visit_id = OLD.visit_id;
ALTER DEFAULT PRIVILEGES IN SCHEMA saltmere GRANT SELECT ON TABLES TO tide_reader;
