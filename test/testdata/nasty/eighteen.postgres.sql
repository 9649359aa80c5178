-- What version 18 alone has, among faults that are fixed: NOT NULL under names of its own, with comments, not for
-- heirs and not validated; keys and references by periods; constraints that are not enforced; virtual columns; identity of partitions.
-- as : INSERT INTO gauge (gauge_id, station_id, model, depth, kind) VALUES (9001, 3, 'm', 4, 'Y'); UPDATE gauge SET model = 'x' WHERE gauge_id = 3; DELETE FROM leave WHERE leave_id = 2
-- as : INSERT INTO datum_level VALUES (77, '[2026-01-01,2026-02-01)', 5); INSERT INTO levelling (levelling_id, station_id, valid, datum) VALUES (9001, 1, '[2026-02-01,2026-03-01)', 3); INSERT INTO reading (at, station_id, level) VALUES ('2026-03-01', 5, 1); INSERT INTO shift (keeper_id, during, note) VALUES (5, '[900,901)', 'n')
-- as tide_watch: SELECT depth_cm FROM gauge_depth; INSERT INTO visit (visit_id, station_code, seen) VALUES (9001, 'S7', 's')
-- goes: COMMENT ON constraint twice
DO $$ BEGIN CREATE ROLE tide_watch; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE EXTENSION btree_gist;
CREATE TABLE station (station_id integer CONSTRAINT "id, needed" NOT NULL PRIMARY KEY, code varchar(9) CONSTRAINT code_needed NOT NULL UNIQUE, name text, town text CONSTRAINT town_here NOT NULL NO INHERIT, region text);
COMMENT ON CONSTRAINT code_needed ON station IS 'printed on the gauge'; COMMENT ON CONSTRAINT "id, needed" ON station IS 'i';
INSERT INTO station SELECT g, 'S' || g, 'station ' || g, 't' || g % 9, 'r' || g % 5 FROM generate_series(1, 150) g;
ALTER TABLE station ADD CONSTRAINT name_later NOT NULL name NOT VALID; COMMENT ON CONSTRAINT name_later ON station IS 'since the storm';
CREATE TABLE gauge (gauge_id integer PRIMARY KEY, station_id bigint CONSTRAINT gauge_at NOT NULL, model text, depth integer, kind char(1),
  depth_cm integer GENERATED ALWAYS AS (depth * 100) VIRTUAL, code_up text GENERATED ALWAYS AS (upper(model)) VIRTUAL,
  CONSTRAINT depth_low CHECK (depth > 0) NOT ENFORCED, CONSTRAINT twice CHECK (depth < 9000), CONSTRAINT twice_more CHECK (depth < 9000),
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED NOT ENFORCED);
COMMENT ON CONSTRAINT gauge_station ON gauge IS 'not yet'; COMMENT ON CONSTRAINT depth_low ON gauge IS 'nor this'; COMMENT ON CONSTRAINT gauge_at ON gauge IS 'where it stands'; COMMENT ON COLUMN gauge.depth_cm IS 'shown';
INSERT INTO gauge (gauge_id, station_id, model, depth, kind) SELECT g, 1 + g % 150, 'm' || g % 7, 1 + g % 40, CASE g % 2 WHEN 0 THEN 'Y' ELSE 'N' END FROM generate_series(1, 200) g;
CREATE VIEW gauge_depth AS SELECT gauge_id, depth_cm, code_up FROM gauge; GRANT SELECT ON gauge_depth TO tide_watch; GRANT SELECT (depth_cm) ON gauge TO tide_watch;
CREATE TABLE visit (visit_id integer PRIMARY KEY, station_code varchar(9) CONSTRAINT "visit ""at""" NOT NULL, seen text, note text, UNIQUE (seen, note), CONSTRAINT visit_station FOREIGN KEY (station_code) REFERENCES station (code) NOT VALID);
INSERT INTO visit SELECT g, 'S' || (1 + g % 150), 'seen ' || g, NULL FROM generate_series(1, 160) g; GRANT INSERT, SELECT ON visit TO tide_watch; GRANT SELECT ON station TO tide_watch;
CREATE TABLE datum_level (station_id integer, valid daterange, level integer, CONSTRAINT datum_key PRIMARY KEY (station_id, valid WITHOUT OVERLAPS)); COMMENT ON CONSTRAINT datum_key ON datum_level IS 'one at a time'; COMMENT ON INDEX datum_key IS 'its index';
INSERT INTO datum_level SELECT g, daterange('2026-01-01', '2026-07-01'), g FROM generate_series(1, 60) g; INSERT INTO datum_level SELECT g, daterange('2026-07-01', '2027-01-01'), g FROM generate_series(1, 60) g;
CREATE TABLE levelling (levelling_id integer PRIMARY KEY, station_id integer, valid daterange, datum integer,
  CONSTRAINT levelling_datum FOREIGN KEY (station_id, PERIOD valid) REFERENCES datum_level (station_id, PERIOD valid)); COMMENT ON CONSTRAINT levelling_datum ON levelling IS 'within';
INSERT INTO levelling SELECT g, 1 + g % 60, daterange(DATE '2026-05-01' + g % 20, DATE '2026-09-01'), g FROM generate_series(1, 150) g;
CREATE TABLE shift (keeper_id integer NOT NULL, during int4range NOT NULL, note text, EXCLUDE USING gist (keeper_id WITH =, during WITH &&));
INSERT INTO shift SELECT g % 40, int4range(g * 2, g * 2 + 1), 'n' FROM generate_series(1, 160) g;
CREATE TABLE leave (leave_id integer, keeper_id integer, away daterange, CONSTRAINT leave_once UNIQUE (keeper_id, away WITHOUT OVERLAPS) DEFERRABLE);
INSERT INTO leave SELECT g, g % 30, daterange(DATE '2026-01-01' + g * 3, DATE '2026-01-03' + g * 3) FROM generate_series(1, 120) g;
CREATE TABLE reading (reading_id bigint GENERATED ALWAYS AS IDENTITY (START WITH 100), at date CONSTRAINT at_needed NOT NULL, station_id integer, level integer) PARTITION BY RANGE (at);
CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2026-07-01'); CREATE TABLE reading_2 (reading_id bigint CONSTRAINT own_id NOT NULL, at date CONSTRAINT own_at NOT NULL, station_id integer, level integer); ALTER TABLE reading ATTACH PARTITION reading_2 FOR VALUES FROM ('2026-07-01') TO ('2027-01-01');
COMMENT ON CONSTRAINT at_needed ON reading IS 'when';
INSERT INTO reading (at, station_id, level) SELECT DATE '2026-01-01' + g, 1 + g % 150, g FROM generate_series(0, 300) g;
ALTER TABLE reading ADD CONSTRAINT reading_station FOREIGN KEY (station_id) REFERENCES station;
CREATE TABLE keeper (keeper_id integer GENERATED BY DEFAULT AS IDENTITY, email text, code text CONSTRAINT keeper_code_not_null CHECK (code IS NOT NULL)); INSERT INTO keeper (email, code) SELECT 'k' || g || '@saltmere.test', 'K' || g FROM generate_series(1, 130) g;
-- from postgres 18
