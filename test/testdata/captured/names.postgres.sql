-- Names and texts that look like a capture's own lines, or break those of others.
CREATE SCHEMA "@nexdal 1 postgres";
CREATE TABLE "@nexdal 1 postgres"."@done 3" (id int PRIMARY KEY, "@row 2 []" text DEFAULT '@end head 1', "a
b" text CHECK ("a
b" <> E'x\t\\n"'), "tab	bed" text);
COMMENT ON TABLE "@nexdal 1 postgres"."@done 3" IS E'one\n@done 76\n@nexdal 1 postgres\n(1 row)\n  blanks  ';
COMMENT ON COLUMN "@nexdal 1 postgres"."@done 3".id IS '| framed |   ';
CREATE TABLE station (id int PRIMARY KEY, code text NOT NULL UNIQUE, seen timestamptz DEFAULT now());
COMMENT ON TABLE station IS E'ä ß 水 🌊 \\ \u0001 \x1b[31m';
CREATE VIEW watched AS SELECT id, code || E'\n@failed head 42501' AS code FROM station;
CREATE FUNCTION "f
@ask head" () RETURNS text LANGUAGE sql AS E'SELECT ''@end head 7''\n-- @done 1';
CREATE TYPE weather AS ENUM ('rain, or', '"fog"', 'back\slash', '');
CREATE TABLE sight (station_id int NOT NULL REFERENCES station, seen weather DEFAULT 'back\slash', PRIMARY KEY (station_id, seen));
CREATE TRIGGER "t
(2 rows)" BEFORE UPDATE ON station FOR EACH ROW EXECUTE FUNCTION suppress_redundant_updates_trigger();
SELECT format('COMMENT ON TABLE sight IS %L', string_agg(md5(i::text) || E'\n', '')) FROM generate_series(1, 120000) i
\gexec
