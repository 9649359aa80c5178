-- A trigger that does more than number, a column that is too small for the numbers, and one numbered only where no number was given.
CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint PRIMARY KEY, code text NOT NULL UNIQUE, seen timestamptz); -- want: sequence/by-trigger (no fix)
CREATE FUNCTION number() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.id := nextval('numbers'); NEW.seen := now(); RETURN NEW; END $$;
CREATE TRIGGER numbered BEFORE INSERT ON station FOR EACH ROW EXECUTE FUNCTION number();
CREATE SEQUENCE "small numbers" MAXVALUE 30000 START 7;
COMMENT ON SEQUENCE "small numbers" IS 'kept';
CREATE TABLE "Keeper" ("The id" integer PRIMARY KEY, name text NOT NULL UNIQUE); -- want: sequence/by-trigger
CREATE FUNCTION count_keeper() RETURNS trigger LANGUAGE plpgsql AS $f$
BEGIN
  IF NEW."The id" IS NULL THEN
    SELECT nextval('"small numbers"') INTO NEW."The id";
  END IF;
  RETURN NEW;
END;
$f$;
CREATE TRIGGER numbered BEFORE INSERT ON "Keeper" FOR EACH ROW EXECUTE FUNCTION count_keeper();
INSERT INTO "Keeper" (name) VALUES ('Ada Voss'), ('Bo Lund');
