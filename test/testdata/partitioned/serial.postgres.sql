-- script: saltmere.reading --by at --every month --ahead 3
-- holds: COMMENT ON CONSTRAINT reading_level_check ON saltmere.reading IS
-- as tide_writer: INSERT INTO saltmere.reading (station_id, at, level, note) VALUES (1, '2026-05-01', 3, 'x'); SELECT currval('saltmere.reading_reading_id_seq')
-- as tide_writer: INSERT INTO saltmere.reading (station_id, at, level, note) VALUES (1, '2026-01-05', 3, 'x'); UPDATE saltmere.reading SET note = 'y' WHERE station_id = 1
-- as tide_owner: DELETE FROM saltmere.reading WHERE reading_id = 3; ALTER TABLE saltmere.reading ADD COLUMN z int
DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_reader; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE, CREATE ON SCHEMA saltmere TO tide_reader, tide_writer, tide_owner;
CREATE TABLE saltmere.station (station_id int PRIMARY KEY, code text); INSERT INTO saltmere.station SELECT g, 's' || g FROM generate_series(1, 300) g; ALTER TABLE saltmere.station OWNER TO tide_owner;
CREATE TABLE saltmere.reading (reading_id bigserial PRIMARY KEY, station_id int NOT NULL REFERENCES saltmere.station ON DELETE CASCADE DEFERRABLE, at timestamptz NOT NULL DEFAULT now(), level numeric(8,2) CHECK (level < 1000), note text COLLATE "C" DEFAULT 'n', doubled numeric GENERATED ALWAYS AS (level * 2) STORED, raw bytea) WITH (fillfactor = 80, autovacuum_vacuum_scale_factor = 0.02);
ALTER TABLE saltmere.reading ALTER note SET STORAGE EXTERNAL, ALTER station_id SET STATISTICS 400, ALTER station_id SET (n_distinct = 300)/*14 , ALTER raw SET COMPRESSION pglz*/;
COMMENT ON TABLE saltmere.reading IS 'levels'; COMMENT ON COLUMN saltmere.reading.note IS 'the note'; COMMENT ON CONSTRAINT reading_pkey ON saltmere.reading IS 'pk'; COMMENT ON CONSTRAINT reading_level_check ON saltmere.reading IS 'low'; COMMENT ON CONSTRAINT reading_station_id_fkey ON saltmere.reading IS 'fk';
CREATE INDEX reading_station ON saltmere.reading (station_id, at) WITH (fillfactor = 70); COMMENT ON INDEX saltmere.reading_station IS 'by station'; CREATE INDEX reading_expr ON saltmere.reading (lower(note)) WHERE level > 3; ALTER TABLE saltmere.reading CLUSTER ON reading_station; ALTER INDEX saltmere.reading_expr ALTER COLUMN 1 SET STATISTICS 300;
CREATE UNIQUE INDEX reading_u ON saltmere.reading (at, station_id, reading_id);
INSERT INTO saltmere.reading (station_id, at, level, note) SELECT 1 + g % 300, '2026-01-01'::timestamptz + g * interval '2 hours', g % 9, 'n' FROM generate_series(1, 700) g;
CREATE TABLE saltmere.flag (flag_id int PRIMARY KEY, reading_id bigint REFERENCES saltmere.reading ON DELETE CASCADE, t text); INSERT INTO saltmere.flag SELECT g, g, 't' FROM generate_series(1, 100) g;
COMMENT ON CONSTRAINT flag_reading_id_fkey ON saltmere.flag IS 'fkf'; COMMENT ON INDEX saltmere.reading_pkey IS 'pki'; ALTER INDEX saltmere.reading_pkey SET (fillfactor = 66); ALTER TABLE saltmere.reading OWNER TO tide_owner; ALTER TABLE saltmere.flag OWNER TO tide_owner;
GRANT SELECT (note, station_id), UPDATE (note) ON saltmere.reading TO tide_reader WITH GRANT OPTION; GRANT INSERT, SELECT, UPDATE ON saltmere.reading TO tide_writer; GRANT USAGE ON saltmere.reading_reading_id_seq TO tide_writer; REVOKE TRUNCATE ON saltmere.reading FROM tide_owner;
ALTER DEFAULT PRIVILEGES IN SCHEMA saltmere GRANT ALL ON TABLES TO tide_writer;
