-- Routines and triggers that rest on just the types of columns, of which the engine keeps no record: functions that it finds
-- by the types of what they are given, and rows that have to be of the types that a PL/pgSQL function declares.
-- as : SELECT stations_of(1), ids() IS NULL; SELECT count(*) FROM codes(); SELECT count(*) FROM listed(); SELECT count(*) FROM rows_of; CALL touch(1); SELECT count(*) FROM walked(); SELECT count(*) FROM archived(); SELECT copied(); SELECT n_free(); SELECT cut()
-- as : INSERT INTO berth VALUES (900, 2); DELETE FROM berth WHERE id = 900; SELECT pier_of(3), spans(); INSERT INTO free VALUES (900, 1); DELETE FROM free WHERE id = 900
-- goes: free|gauge_again
CREATE TABLE station (id bigint PRIMARY KEY, code varchar(20) NOT NULL UNIQUE);
CREATE TABLE gauge (id bigint PRIMARY KEY, station_id int REFERENCES station (id), code varchar(10) NOT NULL REFERENCES station (code));
CREATE TABLE gauge_again (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
CREATE TABLE log_of (id bigint PRIMARY KEY, station_id int REFERENCES station (id), said text);
CREATE TABLE log_archive (id bigint, station_id int, said text);
CREATE TABLE berth (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
CREATE TABLE pier (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
CREATE TABLE span (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
CREATE TABLE walk (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
CREATE TABLE free (id bigint PRIMARY KEY, station_id int REFERENCES station (id));
INSERT INTO station SELECT i, 's' || i FROM generate_series(1, 300) i;
INSERT INTO gauge SELECT i, i % 300 + 1, 's' || (i % 300 + 1) FROM generate_series(1, 500) i;
INSERT INTO gauge_again SELECT i, i % 300 + 1 FROM generate_series(1, 500) i;
INSERT INTO log_of SELECT i, i % 300 + 1, 'ok' FROM generate_series(1, 500) i;
INSERT INTO berth SELECT i, i % 50 + 1 FROM generate_series(1, 200) i;
INSERT INTO pier SELECT i, i % 50 + 1 FROM generate_series(1, 200) i;
INSERT INTO span SELECT i, i % 50 + 1 FROM generate_series(1, 200) i;
INSERT INTO walk SELECT i, i % 50 + 1 FROM generate_series(1, 200) i;
INSERT INTO free SELECT i, i % 50 + 1 FROM generate_series(1, 200) i;
CREATE FUNCTION stations_of(int) RETURNS SETOF int LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT station_id FROM gauge WHERE id = $1; END $$;
CREATE FUNCTION named(s int) RETURNS text LANGUAGE sql AS $$ SELECT 'station ' || s $$;
CREATE FUNCTION listed() RETURNS TABLE (what text) LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY EXECUTE 'SELECT named(g.station_id) FROM gauge_again g'; END $$;
CREATE FUNCTION codes() RETURNS TABLE (c varchar(10)) LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT code FROM gauge; END $$;
CREATE FUNCTION ids() RETURNS int[] LANGUAGE plpgsql AS $$ DECLARE a int[]; BEGIN SELECT array_agg(station_id) INTO a FROM free; RETURN a; END $$;
CREATE FUNCTION rowed() RETURNS SETOF record LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT id, station_id FROM gauge; END $$;
CREATE VIEW rows_of AS SELECT * FROM rowed() AS r (id bigint, station_id int);
CREATE PROCEDURE touch(INOUT n int) LANGUAGE plpgsql AS $$ BEGIN SELECT station_id INTO n FROM free LIMIT 1; END $$;
CREATE FUNCTION fired() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM named(NEW.station_id); RETURN NEW; END $$;
CREATE TRIGGER fires BEFORE INSERT ON berth FOR EACH ROW EXECUTE FUNCTION fired();
CREATE FUNCTION pier_of(n int) RETURNS text LANGUAGE sql AS $$ SELECT repeat('-', station_id) FROM pier WHERE id = n $$;
CREATE FUNCTION spans() RETURNS bigint LANGUAGE plpgsql AS $$ BEGIN RETURN (SELECT count(*) FROM span WHERE int4range(station_id, 1000) @> 7); END $$;
CREATE FUNCTION walked() RETURNS TABLE (at bigint, station int) LANGUAGE plpgsql AS $$ DECLARE r record; BEGIN FOR r IN SELECT * FROM walk LOOP at := r.id; station := r.station_id; RETURN NEXT; END LOOP; END $$;
CREATE FUNCTION archived() RETURNS SETOF log_archive LANGUAGE plpgsql AS $$ BEGIN RETURN QUERY SELECT * FROM log_of; END $$;
CREATE FUNCTION copied() RETURNS bigint LANGUAGE plpgsql AS $$ DECLARE n bigint; BEGIN SELECT count(station_id) INTO n FROM free; RETURN n; END $$;
CREATE FUNCTION n_free() RETURNS bigint LANGUAGE plpgsql AS $$ BEGIN RETURN (SELECT max(station_id) FROM free); END $$;
CREATE FUNCTION cut() RETURNS text LANGUAGE sql AS $$ SELECT left(code, 3) FROM gauge LIMIT 1 $$;
