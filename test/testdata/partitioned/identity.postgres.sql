-- script: saltmere.reading --by at --every week --ahead 3 --rest
-- as tide_writer: INSERT INTO saltmere.reading (station_id, at, level) VALUES (1, '2026-05-01', 3)
-- as tide_reader: SELECT * FROM saltmere.reading
DO $$ BEGIN CREATE ROLE tide_owner; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_reader; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object THEN NULL; END $$;
CREATE SCHEMA "Salt mere"; CREATE SCHEMA saltmere; GRANT USAGE, CREATE ON SCHEMA saltmere, "Salt mere" TO tide_reader, tide_writer, tide_owner;
CREATE TABLE saltmere.reading (reading_id int GENERATED ALWAYS AS IDENTITY (START 100 INCREMENT 5 CYCLE CACHE 7), station_id int, at date, level numeric, CONSTRAINT r_pk PRIMARY KEY (reading_id) INCLUDE (level) DEFERRABLE, EXCLUDE USING btree (station_id WITH =, at WITH =));
ALTER TABLE saltmere.reading DROP CONSTRAINT reading_station_id_at_excl;
INSERT INTO saltmere.reading (station_id, at, level) SELECT 1 + g % 300, '2026-01-01'::date + g / 10, g % 9 FROM generate_series(1, 700) g;
COMMENT ON SEQUENCE saltmere.reading_reading_id_seq IS 'numbers'; GRANT SELECT ON SEQUENCE saltmere.reading_reading_id_seq TO tide_reader;
GRANT SELECT ON saltmere.reading TO tide_reader; GRANT INSERT ON saltmere.reading TO tide_writer;
