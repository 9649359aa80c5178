-- Inheritance, typed and unlogged tables, domains over an extension's type, row security, rules,
-- statistics, exclusion and deferrable constraints, nested partitions, publications of some
-- columns, functions that take rows, large objects.
-- goes: photo_photo_id_seq OWNER TO
-- as tide_writer: INSERT INTO saltmere.visit (visit_id, station_id, rating, keeper, kind) VALUES (900, 1, 3, 'k', 'steam'); INSERT INTO saltmere.seen (visit_id, station_id) VALUES (902, 2)
-- as tide_reader: SELECT * FROM saltmere.visit; SELECT * FROM saltmere.reading_2026_02
-- as tide_owner: INSERT INTO saltmere.feed (feed_id, station_id) VALUES (900, 1); DELETE FROM saltmere.visit WHERE visit_id = 3
-- as : SELECT saltmere.visits_of(s) FROM saltmere.station s; SELECT * FROM saltmere.last_visit(3); INSERT INTO saltmere.heir2 (base_id, station_id) VALUES (900, 1); SELECT lo_get(image) FROM saltmere.photo
DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_reader; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE ON SCHEMA saltmere TO tide_reader, tide_writer, tide_owner;
CREATE EXTENSION IF NOT EXISTS citext SCHEMA public; CREATE EXTENSION IF NOT EXISTS hstore SCHEMA public;
CREATE DOMAIN saltmere.name_d AS public.citext CHECK (length(VALUE) < 50);
CREATE DOMAIN saltmere.code_d AS varchar(20) NOT NULL;
CREATE TABLE saltmere.station (station_id int GENERATED ALWAYS AS IDENTITY PRIMARY KEY, code saltmere.code_d, name saltmere.name_d, note text, tags public.hstore);
INSERT INTO saltmere.station (code, name) SELECT 's' || g, 'Name ' || g FROM generate_series(1, 300) g;
-- rls
CREATE TABLE saltmere.visit (visit_id int, station_id int, keeper text, seen date NOT NULL DEFAULT '2026-01-01', rating int CHECK (rating > 0), kind text);
INSERT INTO saltmere.visit SELECT g, 1 + g % 300, 'k' || g % 5, '2026-01-01'::date + g % 30, 1 + g % 5, CASE g % 3 WHEN 0 THEN 'dry ice' WHEN 1 THEN 'steam' ELSE 'foam' END FROM generate_series(1, 500) g;
ALTER TABLE saltmere.visit ENABLE ROW LEVEL SECURITY; CREATE POLICY own ON saltmere.visit FOR SELECT TO tide_reader USING (rating > 2); CREATE POLICY wr ON saltmere.visit TO tide_writer USING (true) WITH CHECK (rating < 9);
GRANT SELECT ON saltmere.visit TO tide_reader; GRANT ALL ON saltmere.visit TO tide_writer; GRANT SELECT ON saltmere.station TO tide_reader, tide_writer;
CREATE STATISTICS saltmere.visit_stat ON station_id, seen FROM saltmere.visit;
CREATE RULE no_old AS ON DELETE TO saltmere.visit WHERE old.rating = 5 DO INSTEAD NOTHING;
CREATE FUNCTION saltmere.visit_touch() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.note := 'x'; RETURN NEW; EXCEPTION WHEN undefined_column THEN RETURN NEW; END $$;
-- typed table, inheritance
CREATE TYPE saltmere.point_t AS (x int, y int, label text);
CREATE TABLE saltmere.mark OF saltmere.point_t; INSERT INTO saltmere.mark SELECT g, g, 'l' FROM generate_series(1, 150) g;
CREATE TABLE saltmere.base (base_id int, station_id int, level numeric); CREATE TABLE saltmere.heir (extra int) INHERITS (saltmere.base); CREATE TABLE saltmere.heir2 () INHERITS (saltmere.heir);
INSERT INTO saltmere.base SELECT g, 1 + g % 300, g FROM generate_series(1, 120) g; INSERT INTO saltmere.heir SELECT g, 1 + g % 300, g, g FROM generate_series(100, 220) g; INSERT INTO saltmere.heir2 SELECT g, 1 + g % 300, g, g FROM generate_series(100, 220) g;
-- deferrable, exclusion, not valid, no inherit
CREATE EXTENSION IF NOT EXISTS btree_gist SCHEMA public;
CREATE TABLE saltmere.booking (booking_id int UNIQUE DEFERRABLE INITIALLY DEFERRED, station_id int, during daterange, EXCLUDE USING gist (station_id WITH =, during WITH &&), CONSTRAINT nv CHECK (station_id > 0) NO INHERIT NOT VALID);
INSERT INTO saltmere.booking SELECT g, g, daterange('2026-01-01', '2026-02-01') FROM generate_series(1, 200) g;
-- unlogged, temp-like storage options, statistics targets
CREATE UNLOGGED TABLE saltmere.cache (k text, v text, station_id int) WITH (fillfactor = 70, autovacuum_enabled = off); INSERT INTO saltmere.cache SELECT 'k' || g, 'v', 1 + g % 300 FROM generate_series(1, 130) g;
ALTER TABLE saltmere.cache ALTER k SET STATISTICS 500, ALTER v SET STORAGE EXTERNAL, ALTER station_id SET (n_distinct = 300);
-- materialized view with index, security barrier view, recursive views
CREATE MATERIALIZED VIEW saltmere.per_station AS SELECT station_id, count(*) n FROM saltmere.visit GROUP BY 1; CREATE UNIQUE INDEX ON saltmere.per_station (station_id);
CREATE VIEW saltmere.seen WITH (security_barrier) AS SELECT visit_id, station_id, rating FROM saltmere.visit WHERE rating > 1 WITH CASCADED CHECK OPTION; ALTER VIEW saltmere.seen ALTER rating SET DEFAULT 3;
GRANT SELECT, INSERT ON saltmere.seen TO tide_writer;
-- function with table's row type, default args using table
CREATE FUNCTION saltmere.last_visit(int) RETURNS SETOF saltmere.visit LANGUAGE sql AS 'SELECT * FROM saltmere.visit WHERE station_id = $1';
CREATE FUNCTION saltmere.visits_of(s saltmere.station) RETURNS bigint LANGUAGE sql STABLE /*14 BEGIN ATOMIC SELECT count(*) FROM saltmere.visit v WHERE v.station_id = (s).station_id; END*//*-14 AS $sql$ SELECT count(*) FROM saltmere.visit v WHERE v.station_id = (s).station_id; $sql$*/;
-- event trigger, publication with column list and where
CREATE TABLE saltmere.feed (feed_id bigint PRIMARY KEY, station_id bigint, payload json, price real, made timestamp DEFAULT now()); INSERT INTO saltmere.feed SELECT g, 1 + g % 300, '{}', 1.5, now() FROM generate_series(1, 150) g;
CREATE PUBLICATION some_feed FOR TABLE saltmere.feed/*15  (feed_id, station_id) WHERE (feed_id > 0)*/;
-- index oddities
CREATE INDEX a ON saltmere.feed (station_id) INCLUDE (price); CREATE INDEX b ON saltmere.feed (station_id); CREATE INDEX c ON saltmere.feed (station_id) WHERE price > 1; CREATE INDEX d ON saltmere.feed USING hash (station_id); CREATE INDEX e ON saltmere.feed (station_id DESC NULLS LAST); COMMENT ON INDEX saltmere.b IS 'plain'; ALTER INDEX saltmere.b SET (fillfactor = 55); ALTER TABLE saltmere.feed CLUSTER ON b;
CREATE UNIQUE INDEX feed_made ON saltmere.feed (made, feed_id) INCLUDE (price);
CREATE TABLE saltmere.nn (a int, b int, UNIQUE/*15  NULLS NOT DISTINCT*/ (a)); INSERT INTO saltmere.nn SELECT g, g FROM generate_series(1, 120) g;
CREATE TABLE saltmere.un (a int, b int); INSERT INTO saltmere.un SELECT g, g FROM generate_series(1, 120) g; CREATE UNIQUE INDEX un_desc ON saltmere.un (a DESC) INCLUDE (b);
-- default privileges
ALTER DEFAULT PRIVILEGES IN SCHEMA saltmere GRANT ALL ON TABLES TO tide_writer; ALTER DEFAULT PRIVILEGES IN SCHEMA saltmere GRANT ALL ON SEQUENCES TO tide_reader;
ALTER TABLE saltmere.feed OWNER TO tide_owner; ALTER TABLE saltmere.visit OWNER TO tide_owner; ALTER TABLE saltmere.booking OWNER TO tide_owner;
-- partitions: nested, with default, with own options
CREATE TABLE saltmere.reading (reading_id bigint NOT NULL, station_id int NOT NULL, at timestamptz NOT NULL, level numeric) PARTITION BY RANGE (at);
CREATE TABLE saltmere.reading_2026_01 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-01-01') TO ('2026-02-01') PARTITION BY LIST (station_id);
CREATE TABLE saltmere.reading_2026_01_a PARTITION OF saltmere.reading_2026_01 FOR VALUES IN (1, 2, 3) WITH (fillfactor = 60); CREATE TABLE saltmere.reading_2026_01_r PARTITION OF saltmere.reading_2026_01 DEFAULT;
CREATE TABLE saltmere.reading_2026_02 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-02-01') TO ('2026-03-01'); CREATE TABLE saltmere.reading_2026_03 PARTITION OF saltmere.reading FOR VALUES FROM ('2026-03-01') TO ('2026-04-01');
INSERT INTO saltmere.reading SELECT g, 1 + g % 300, '2026-01-01'::timestamptz + (g % 80) * interval '1 day', 1 FROM generate_series(1, 500) g;
GRANT SELECT ON saltmere.reading_2026_02 TO tide_reader; ALTER TABLE saltmere.reading_2026_02 OWNER TO tide_owner;
CREATE INDEX ON saltmere.reading (station_id);
-- lo
CREATE TABLE saltmere.photo (photo_id serial, image oid, station_id int); INSERT INTO saltmere.photo (image, station_id) SELECT lo_create(0), g FROM generate_series(1, 30) g;

UPDATE saltmere.base SET level = NULL WHERE base_id = 3; UPDATE saltmere.heir SET extra = NULL, level = NULL WHERE base_id = 103; UPDATE saltmere.booking SET during = NULL WHERE booking_id = 3; UPDATE saltmere.cache SET v = NULL WHERE k = 'k3'; UPDATE saltmere.feed SET payload = NULL, price = NULL, made = NULL WHERE feed_id = 3; UPDATE saltmere.visit SET keeper = NULL, rating = NULL, kind = NULL WHERE visit_id = 3; UPDATE saltmere.mark SET y = NULL, label = NULL WHERE x = 3; UPDATE saltmere.nn SET b = NULL; UPDATE saltmere.un SET b = NULL; UPDATE saltmere.station SET name = NULL WHERE station_id = 3; UPDATE saltmere.base SET base_id = NULL WHERE base_id IN (4, 104); UPDATE saltmere.base SET station_id = NULL WHERE base_id IN (5, 105, 205);
