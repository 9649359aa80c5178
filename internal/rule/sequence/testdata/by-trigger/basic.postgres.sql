CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint PRIMARY KEY, code text NOT NULL UNIQUE); -- want: sequence/by-trigger
CREATE FUNCTION number() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.id := nextval('numbers'); RETURN NEW; END $$;
CREATE TRIGGER numbered BEFORE INSERT ON station FOR EACH ROW EXECUTE FUNCTION number();
