-- Jobs that call for indexes and constraints by their names, plainly and in strings, and statements that infer an index
-- from its columns: each index repeats another one, or begins as another does.
-- as : SELECT tend(); CALL keep_in_order(); INSERT INTO station VALUES (7, 'c7', 'r1', 1) ON CONFLICT (code) DO UPDATE SET height = 2; INSERT INTO station VALUES (8, 'c8', 'r2', 1) ON CONFLICT ON CONSTRAINT station_code_again DO NOTHING
-- as : INSERT INTO station VALUES (9, 'c9', 'r2', 1) ON CONFLICT (lower(code)) WHERE region > '' DO NOTHING; SELECT upsert('c10', 4); SELECT upsert('fresh', 5); CLUSTER station; REINDEX INDEX station_plain
-- as : SELECT log_berth('P1', 1); SELECT log_berth('P1', 1); SELECT log_high('P2', 2); INSERT INTO berth VALUES ('P5', 5); SELECT * FROM berth_log ORDER BY pier
-- goes: station_(idle|code_spare|code_key)|berth_log_(free|pier|slot)
SET client_min_messages = error;
CREATE TABLE station (station_id int PRIMARY KEY, code text NOT NULL, region text, height float8, CONSTRAINT station_code_key UNIQUE (code));
ALTER TABLE station ADD CONSTRAINT station_code_again UNIQUE (code);
INSERT INTO station SELECT i, 'c' || i, 'r' || i % 3, i * 1.5 FROM generate_series(1, 200) i;
CREATE UNIQUE INDEX station_lower ON station (lower(code)) WHERE region > '';
CREATE INDEX station_region ON station (region);
CREATE INDEX station_region_code ON station (region, code);
CREATE INDEX station_plain ON station (height);
CREATE INDEX station_plain_again ON station (height);
CREATE INDEX station_plain_third ON station (height);
CREATE INDEX station_idle ON station (height);
CREATE UNIQUE INDEX station_code_spare ON station (code);
CLUSTER station USING station_region;
CREATE FUNCTION tend() RETURNS int LANGUAGE plpgsql AS $$ BEGIN EXECUTE 'REINDEX INDEX ' || 'station_region'; EXECUTE 'REINDEX INDEX public.station_plain_again'; EXECUTE format('ALTER INDEX station_plain SET (fillfactor = %s)', 70); RETURN 1; END $$;
CREATE PROCEDURE keep_in_order() LANGUAGE plpgsql AS $$ BEGIN CLUSTER public.station USING station_plain_third; EXECUTE 'CLUSTER station USING station_region'; END $$;
CREATE FUNCTION upsert(of text, high float8) RETURNS int LANGUAGE sql AS $$ INSERT INTO station VALUES (1000 + length(of) * 100 + high::int, of, 'r9', high) ON CONFLICT ON CONSTRAINT station_code_again DO UPDATE SET height = excluded.height RETURNING station_id $$;
CREATE TABLE berth (pier text PRIMARY KEY, slot int NOT NULL);
CREATE TABLE berth_log (pier text NOT NULL CONSTRAINT berth_log_key UNIQUE, slot int NOT NULL, times int NOT NULL DEFAULT 1);
CREATE UNIQUE INDEX berth_log_slot ON berth_log (slot, pier);
CREATE UNIQUE INDEX berth_log_pier ON berth_log (pier, slot);
CREATE UNIQUE INDEX berth_log_free ON berth_log (slot, times, pier);
CREATE UNIQUE INDEX berth_log_high ON berth_log (pier, (slot + 1));
CREATE FUNCTION log_berth(of_pier text, of_slot int) RETURNS int LANGUAGE plpgsql AS $$ DECLARE n int; BEGIN EXECUTE 'INSERT INTO public.berth_log (pier, slot) VALUES ($1, $2) ON CONFLICT (slot, pier) DO UPDATE SET times = berth_log.times + 1 RETURNING times' INTO n USING of_pier, of_slot; RETURN n; END $$;
CREATE FUNCTION log_high(of_pier text, of_slot int) RETURNS void LANGUAGE sql AS $$ INSERT INTO berth_log VALUES (of_pier, of_slot) ON CONFLICT (pier, (slot + 1)) DO NOTHING $$;
CREATE FUNCTION log_each() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM log_berth(NEW.pier, NEW.slot); RETURN NEW; END $$;
CREATE TRIGGER berth_new AFTER INSERT ON berth FOR EACH ROW EXECUTE FUNCTION log_each();
