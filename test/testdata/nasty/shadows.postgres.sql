-- Functions and tables called as the engine's own, which sessions find first: whoever calls them by a bare name
-- runs what somebody else wrote.
-- as tide_writer: INSERT INTO saltmere.buoy (colour, station_id) VALUES ('red', 3); SELECT pg_catalog.currval('saltmere.buoy_buoy_id_seq'); SELECT * FROM saltmere.buoys; INSERT INTO saltmere.torch (id, colour) VALUES (900, 'x')
-- goes: (buoy_buoy_id_seq|lamp_no) OWNER TO
SET client_min_messages = error;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE ON SCHEMA saltmere TO tide_writer;
DO $$ BEGIN EXECUTE format('ALTER DATABASE %I SET search_path = saltmere, public, pg_catalog', current_database()); END $$;
CREATE TABLE saltmere.buoy (buoy_id serial PRIMARY KEY, colour text, station_id int); INSERT INTO saltmere.buoy (colour, station_id) SELECT 'red', 1 + i % 110 FROM generate_series(1, 120) i;
CREATE TABLE saltmere.station (station_id int NOT NULL, code text NOT NULL); INSERT INTO saltmere.station SELECT i, 's' || i FROM generate_series(1, 110) i;
CREATE SEQUENCE saltmere.lamp_no; CREATE TABLE saltmere.lamp (id bigint PRIMARY KEY DEFAULT nextval('saltmere.lamp_no'), colour text);
CREATE TABLE saltmere.torch (id bigint PRIMARY KEY DEFAULT nextval('saltmere.lamp_no'), colour text);
INSERT INTO saltmere.lamp (colour) SELECT 'x' FROM generate_series(1, 105); SELECT setval('saltmere.lamp_no', 50);
CREATE FUNCTION saltmere.lamp_number() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.colour := pg_catalog.lower(NEW.colour); RETURN NEW; END $$;
CREATE TRIGGER lamp_lower BEFORE INSERT ON saltmere.lamp FOR EACH ROW EXECUTE FUNCTION saltmere.lamp_number();
CREATE VIEW saltmere.buoys AS SELECT buoy_id, colour FROM saltmere.buoy; GRANT SELECT ON saltmere.buoys TO tide_writer; GRANT SELECT (code) ON saltmere.station TO tide_writer;
GRANT INSERT ON saltmere.buoy, saltmere.lamp, saltmere.torch TO tide_writer; GRANT USAGE ON SEQUENCE saltmere.buoy_buoy_id_seq, saltmere.lamp_no TO tide_writer;
DO $$ DECLARE f text; BEGIN
  FOREACH f IN ARRAY ARRAY['setval(text, bigint, boolean)', 'setval(text, bigint)', 'setval(regclass, bigint, boolean)', 'setval(regclass, bigint)', 'setval(text, integer)', 'nextval(text)', 'format(text, regclass, name)', 'format(text, regclass, regrole)',
      'format(text, text, text)', 'format(text, regclass, text)', 'format(text, text, text, regclass, text)', 'quote_ident(name)', 'quote_ident(text)', 'aclexplode(aclitem[])', 'acldefault("char", oid)', 'pg_get_serial_sequence(text, text)', 'max(integer)', 'max(bigint)', 'min(integer)',
      'count(integer)', 'length(text)', 'lower(text)', 'current_setting(text)', 'current_setting(text, boolean)', 'set_config(text, text, boolean)', 'pg_try_advisory_lock(bigint)', 'pg_advisory_lock(bigint)', 'now()', 'version()', 'current_database()', 'pg_get_constraintdef(oid)', 'pg_get_indexdef(oid)', 'pg_get_viewdef(oid)', 'concat_ws(text, text, text)', 'to_char(timestamp without time zone, text)'] LOOP
    EXECUTE 'CREATE FUNCTION saltmere.' || f || ' RETURNS text LANGUAGE plpgsql AS ''BEGIN RAISE EXCEPTION ''''somebody else''''; END''';
  END LOOP;
END $$;
CREATE VIEW saltmere.pg_class AS SELECT 1 AS x; CREATE VIEW saltmere.pg_attribute AS SELECT 1 AS x; CREATE VIEW saltmere.pg_roles AS SELECT 1 AS x; CREATE VIEW saltmere.pg_constraint AS SELECT 1 AS x; CREATE VIEW saltmere.pg_trigger AS SELECT 1 AS x; CREATE VIEW saltmere.pg_namespace AS SELECT 1 AS x; CREATE VIEW saltmere.pg_index AS SELECT 1 AS x;
ANALYZE saltmere.buoy, saltmere.station, saltmere.lamp, saltmere.torch;
