-- What programs are used to do with tables, and what a fix must leave them: to empty a table that others refer to without
-- saying so, to move numbers along, to write a value that nobody has written yet, to know an error by its constraint.
-- as : SELECT warn(9001)
-- as : SELECT roll(9001)
-- as : SELECT logged('x')
-- as : SELECT load_levels()
-- as : SELECT swap()
-- as : SELECT refill(); SELECT make_room(3); SELECT close_it(4); INSERT INTO visit (id, station_id, place_no) VALUES (900, 1, 900); DELETE FROM visit WHERE id = 900; SELECT tried(); SELECT empty_both()
CREATE TABLE station (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE gauge (id int PRIMARY KEY, station_id int NOT NULL);
CREATE INDEX ON gauge (station_id);
CREATE TABLE berth (id int PRIMARY KEY, berth_no int NOT NULL, name text);
CREATE TABLE visit (id int PRIMARY KEY, station_id int NOT NULL, status text NOT NULL DEFAULT 'planned', kind char(1) NOT NULL DEFAULT 'x', place_no int NOT NULL, CONSTRAINT "Odd_name" CHECK (place_no > 0));
CREATE INDEX ON visit (station_id);
CREATE TABLE pier (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE plank (id int PRIMARY KEY, pier_id int NOT NULL);
CREATE INDEX ON plank (pier_id);
INSERT INTO station SELECT i, 'Station ' || i FROM generate_series(1, 200) i;
INSERT INTO gauge SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO berth SELECT i, i, 'Berth ' || i FROM generate_series(1, 200) i;
INSERT INTO visit SELECT i, i % 200 + 1, (ARRAY['open', 'done'])[i % 2 + 1], (ARRAY['a', 'b'])[i % 2 + 1], i FROM generate_series(1, 500) i;
INSERT INTO pier SELECT i, 'Pier ' || i FROM generate_series(1, 200) i;
INSERT INTO plank SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE FUNCTION refill() RETURNS int LANGUAGE plpgsql AS $$ BEGIN CREATE TEMP TABLE was ON COMMIT DROP AS SELECT * FROM station; TRUNCATE station; INSERT INTO station (id, name) SELECT id, name FROM was; DROP TABLE was; RETURN 1; END $$;
CREATE FUNCTION make_room(n int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN UPDATE berth SET berth_no = berth_no + 1 WHERE berth_no >= n; UPDATE berth SET berth_no = berth_no - 1 WHERE berth_no > n; RETURN n; END $$;
CREATE FUNCTION close_it(n int) RETURNS int LANGUAGE sql AS $$ UPDATE visit SET status = 'closed' WHERE id = n; UPDATE visit SET status = 'done' WHERE id = n; SELECT n $$;
CREATE FUNCTION tried() RETURNS int LANGUAGE plpgsql AS $$ DECLARE c text; BEGIN INSERT INTO visit (id, station_id, place_no) VALUES (901, 1, -1); RETURN 0; EXCEPTION WHEN check_violation THEN GET STACKED DIAGNOSTICS c = CONSTRAINT_NAME; IF c = 'Odd_name' THEN RETURN 1; END IF; RAISE; END $$;
CREATE FUNCTION empty_both() RETURNS int LANGUAGE plpgsql AS $$ BEGIN CREATE TEMP TABLE p ON COMMIT DROP AS SELECT * FROM pier; CREATE TEMP TABLE q ON COMMIT DROP AS SELECT * FROM plank; TRUNCATE pier, plank; INSERT INTO pier (id, name) SELECT id, name FROM p; INSERT INTO plank (id, pier_id) SELECT id, pier_id FROM q; DROP TABLE p, q; RETURN 1; END $$;
CREATE SEQUENCE log_no;
CREATE TABLE storm_log (id int PRIMARY KEY DEFAULT nextval('log_no'), note text); CREATE TABLE tide_log (id int PRIMARY KEY DEFAULT nextval('log_no'), note text);
INSERT INTO storm_log (note) SELECT 'a' FROM generate_series(1, 20); INSERT INTO tide_log (note) SELECT 'b' FROM generate_series(1, 20);
CREATE FUNCTION logged(t text) RETURNS bigint LANGUAGE plpgsql AS $$ BEGIN INSERT INTO tide_log (note) VALUES (t); RETURN currval('log_no'); END $$;
CREATE TABLE level (id int PRIMARY KEY, place int NOT NULL, height int NOT NULL, CONSTRAINT level_low CHECK (height > -100), CONSTRAINT level_low_again CHECK (height > -100), CONSTRAINT level_place UNIQUE (place)); ALTER TABLE level ADD CONSTRAINT level_place_again UNIQUE (place);
INSERT INTO level SELECT i, i, i FROM generate_series(1, 50) i;
CREATE INDEX level_high ON level (height); CREATE INDEX level_high_again ON level (height);
CREATE FUNCTION load_levels() RETURNS int LANGUAGE plpgsql AS $$ BEGIN DROP INDEX level_high_again; ALTER TABLE level DROP CONSTRAINT level_low_again, DROP CONSTRAINT level_place_again; INSERT INTO level VALUES (51, 51, 51); ALTER TABLE level ADD CONSTRAINT level_low_again CHECK (height > -100), ADD CONSTRAINT level_place_again UNIQUE (place); CREATE INDEX level_high_again ON level (height); RETURN 1; END $$;
CREATE TABLE crane (id int PRIMARY KEY, name text NOT NULL); CREATE TABLE hook (id int PRIMARY KEY, crane_id int NOT NULL); CREATE INDEX ON hook (crane_id);
INSERT INTO crane SELECT i, 'Crane ' || i FROM generate_series(1, 200) i; INSERT INTO hook SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE FUNCTION swap() RETURNS int LANGUAGE plpgsql AS $$ BEGIN CREATE TABLE crane_new (id int PRIMARY KEY, name text NOT NULL); INSERT INTO crane_new SELECT id, upper(name) FROM crane; DROP TABLE crane; ALTER TABLE crane_new RENAME TO crane; RETURN 1; END $$;
CREATE TABLE storm (id int PRIMARY KEY, day date NOT NULL, note text, force int); INSERT INTO storm SELECT i, date '2026-01-01' + i, 'n', 3 FROM generate_series(1, 300) i;
CREATE VIEW storm_days AS SELECT id, day FROM storm; CREATE VIEW storm_list AS SELECT * FROM storm_days;
CREATE FUNCTION warn(i int) RETURNS int LANGUAGE sql AS $$ INSERT INTO storm_list VALUES (i, '2026-05-05'); SELECT 1 $$;
CREATE TABLE swell (id int NOT NULL, at date NOT NULL, height int, kind text, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE swell_2026 PARTITION OF swell FOR VALUES FROM ('2026-01-01') TO ('2027-01-01'); CREATE TABLE swell_rest PARTITION OF swell DEFAULT;
INSERT INTO swell SELECT i, date '2026-01-01' + i, i, 'x' FROM generate_series(1, 300) i;
CREATE FUNCTION roll(i int) RETURNS int LANGUAGE sql AS $$ INSERT INTO swell_2026 (id, at) VALUES (i, '2026-05-05'); SELECT 1 $$;
