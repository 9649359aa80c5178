-- What the engine keeps no record of: sequences, constraints, columns and rows named in texts of routines and in
-- defaults; objects called as ours are.
-- as : SELECT saltmere.take(); INSERT INTO saltmere.lamp (colour) VALUES ('red'); INSERT INTO saltmere.ticket (seat) VALUES (1)
-- as : SELECT saltmere.keep('s1', 'x'), saltmere.keep('new', 'y'); SELECT saltmere.note_it(5); SELECT count(*) FROM saltmere.all_marks()
-- as : INSERT INTO saltmere.berth VALUES (900, 'b900'); SELECT saltmere.copy_berth(3); SELECT saltmere.mark(4, 'z'); INSERT INTO saltmere.mark VALUES (901, 'z')
-- as : INSERT INTO saltmere.pier (code, kind) VALUES ('P1', 'a') ON CONFLICT (code) WHERE kind = 'a' DO NOTHING
-- as tide_writer: INSERT INTO saltmere.buoy (colour) VALUES ('red'); SELECT currval('saltmere.buoy_buoy_id_seq'), lastval(); SELECT setval('saltmere.buoy_buoy_id_seq', 5000)
-- goes: (nexdal_buoy_buoy_id_seq_seq|buoy_buoy_id_seq) OWNER TO
SET client_min_messages = error;
DO $$ BEGIN CREATE ROLE tide_writer; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$;
CREATE SCHEMA saltmere; GRANT USAGE ON SCHEMA saltmere TO tide_writer; SET search_path = saltmere;
-- sequences that are named in texts alone
CREATE SEQUENCE by_text; CREATE SEQUENCE by_routine; CREATE SEQUENCE by_format; CREATE SEQUENCE "By Quotes";
CREATE TABLE lamp (id bigint PRIMARY KEY DEFAULT nextval('saltmere.by_text'::text), colour text);
INSERT INTO lamp (colour) SELECT 'c' FROM generate_series(1, 120);
CREATE FUNCTION take() RETURNS bigint LANGUAGE plpgsql SET search_path = saltmere AS $$ DECLARE n bigint; BEGIN n := nextval('by_routine') + nextval('"By Quotes"'); EXECUTE format('SELECT nextval(%L)', 'by_format') INTO n; RETURN n; END $$;
CREATE SEQUENCE ticket_no; CREATE FUNCTION ticket_number() RETURNS bigint LANGUAGE sql AS 'SELECT nextval(''saltmere.ticket_no'')';
CREATE TABLE ticket (no bigint PRIMARY KEY DEFAULT ticket_number(), seat int, stamped timestamptz DEFAULT now());
INSERT INTO ticket (seat) SELECT i % 50 FROM generate_series(1, 150) i;
-- constraints and indexes that statements name
CREATE TABLE station (code text NOT NULL, name text, note text, CONSTRAINT station_code UNIQUE (code), CONSTRAINT station_pair UNIQUE (code, name)); ALTER TABLE station ADD CONSTRAINT station_code_too UNIQUE (code);
INSERT INTO station SELECT 's' || i, 'n' || i FROM generate_series(1, 130) i;
CREATE FUNCTION keep(c text, n text) RETURNS text LANGUAGE sql AS $$ INSERT INTO saltmere.station (code, name) VALUES (c, n) ON CONFLICT ON CONSTRAINT station_code_too DO UPDATE SET note = 'again' RETURNING code $$;
CREATE TABLE pier (code text, kind text); CREATE UNIQUE INDEX pier_a ON pier (code) WHERE kind = 'a'; CREATE UNIQUE INDEX pier_again ON pier (code) WHERE kind = 'a'; CREATE INDEX pier_plain ON pier (code);
INSERT INTO pier SELECT 'P' || i, CASE i % 2 WHEN 0 THEN 'a' ELSE 'b' END FROM generate_series(1, 140) i;
-- rows that routines put together by their shape
CREATE TABLE berth (berth_no int NOT NULL, name text NOT NULL); INSERT INTO berth SELECT i, 'b' || i FROM generate_series(1, 125) i;
CREATE FUNCTION copy_berth(n int) RETURNS text LANGUAGE plpgsql AS $$ DECLARE b saltmere.berth; BEGIN SELECT * INTO b FROM saltmere.berth WHERE berth_no = n LIMIT 1; b.berth_no := b.berth_no + 1000; INSERT INTO saltmere.berth VALUES (b.*); RETURN b.name; END $$;
CREATE TABLE mark (mark_no int, what text); INSERT INTO mark SELECT i, 'm' || i FROM generate_series(1, 122) i;
CREATE FUNCTION all_marks() RETURNS SETOF mark LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT mark_no, what FROM saltmere.mark; END $$;
CREATE FUNCTION mark(n int, w text) RETURNS int LANGUAGE plpgsql AS $$ DECLARE m saltmere.mark%ROWTYPE; BEGIN m := ROW(n, w); RETURN m.mark_no; END $$;
CREATE TABLE logged (at timestamptz DEFAULT now(), what int); INSERT INTO logged (what) SELECT i FROM generate_series(1, 120) i;
CREATE FUNCTION note_it(n int) RETURNS int LANGUAGE sql AS 'INSERT INTO saltmere.logged SELECT now(), n RETURNING what';
-- ours by name
CREATE TABLE buoy (buoy_id serial PRIMARY KEY, colour text); INSERT INTO buoy (colour) SELECT 'red' FROM generate_series(1, 120); GRANT INSERT ON buoy TO tide_writer; GRANT ALL ON SEQUENCE buoy_buoy_id_seq TO tide_writer;
CREATE SEQUENCE nexdal_buoy_buoy_id_seq_seq; CREATE TABLE nexdal_buoy (id int PRIMARY KEY); CREATE TABLE nexdal_old_buoy (id int PRIMARY KEY); CREATE INDEX buoy_new ON buoy (colour); CREATE TABLE buoy_pkey_new (id int);
ANALYZE;
