-- By assignment, where it is null, on a condition of the trigger; one that does more; one on updates too.
CREATE FUNCTION stamp_station() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.created_at := now(); RETURN NEW; END $$;
CREATE TABLE station (id integer PRIMARY KEY, created_at timestamptz); -- want: column/stamp-by-trigger (no fix)
CREATE TRIGGER station_stamp BEFORE INSERT ON station FOR EACH ROW EXECUTE FUNCTION stamp_station();
CREATE FUNCTION stamp_keeper() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
  IF NEW.entered IS NULL THEN NEW.entered = clock_timestamp(); END IF; -- when it was entered
  RETURN NEW;
END;
$body$;
CREATE TABLE keeper (id integer PRIMARY KEY, entered timestamptz); -- want: column/stamp-by-trigger (no fix)
CREATE TRIGGER keeper_stamp BEFORE INSERT ON keeper FOR EACH ROW WHEN (NEW.entered IS NULL) EXECUTE FUNCTION stamp_keeper();
CREATE FUNCTION stamp_visit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.changed_at := now(); RETURN NEW; END $$;
CREATE TABLE visit (id integer PRIMARY KEY, changed_at timestamptz, noted timestamptz DEFAULT now());
CREATE TRIGGER visit_stamp BEFORE INSERT OR UPDATE ON visit FOR EACH ROW EXECUTE FUNCTION stamp_visit();
CREATE FUNCTION name_gauge() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.name := 'now()'; RETURN NEW; END $$;
CREATE TABLE gauge (id integer PRIMARY KEY, name text, read_at timestamptz);
CREATE TRIGGER gauge_name BEFORE INSERT ON gauge FOR EACH ROW EXECUTE FUNCTION name_gauge();
