-- Triggers that number some rows alone, by a condition of their own or of their function: a default would number the others as well.
CREATE SEQUENCE pier_numbers;
CREATE TABLE pier (id bigint PRIMARY KEY, kind text NOT NULL UNIQUE); -- want: sequence/by-trigger (no fix)
CREATE FUNCTION number_pier() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.id := nextval('pier_numbers'); RETURN NEW; END $$;
CREATE TRIGGER numbered BEFORE INSERT ON pier FOR EACH ROW WHEN (NEW.kind = 'stone') EXECUTE FUNCTION number_pier();
CREATE SEQUENCE raft_numbers;
CREATE TABLE raft (id bigint PRIMARY KEY, kind text UNIQUE); -- want: sequence/by-trigger (no fix)
CREATE FUNCTION number_raft() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF NEW.kind IS NULL THEN NEW.id := nextval('raft_numbers'); END IF; RETURN NEW; END $$;
CREATE TRIGGER numbered BEFORE INSERT ON raft FOR EACH ROW EXECUTE FUNCTION number_raft();
CREATE SEQUENCE buoy_numbers;
CREATE TABLE buoy (id bigint PRIMARY KEY, kind text NOT NULL UNIQUE); -- want: sequence/by-trigger
CREATE FUNCTION number_buoy() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.id := nextval('buoy_numbers'); RETURN NEW; END $$;
CREATE TRIGGER numbered BEFORE INSERT ON buoy FOR EACH ROW WHEN (NEW.id IS NULL) EXECUTE FUNCTION number_buoy();
