-- Saltmere as nasty as real life: one of everything that the reader knows.
CREATE SCHEMA "tide gauges";
CREATE SCHEMA api;
COMMENT ON SCHEMA api IS 'what others may call; it''s theirs';
SET search_path = 'tide gauges', public;

CREATE EXTENSION IF NOT EXISTS btree_gist;

-- Types, one on the other.
CREATE TYPE quality AS ENUM ('good', 'doubtful', 'it''s "bad"');
COMMENT ON TYPE quality IS 'how far to trust a level';
CREATE DOMAIN flag_quality AS quality DEFAULT 'good' NOT NULL CONSTRAINT "no bad" CHECK (VALUE <> 'it''s "bad"');
CREATE DOMAIN code AS varchar(12) COLLATE "C" CHECK (VALUE ~ '^[A-Z]+$') CHECK (length(VALUE) > 1);
COMMENT ON DOMAIN code IS 'a short name';
COMMENT ON CONSTRAINT code_check ON DOMAIN code IS 'capitals';
ALTER DOMAIN code ADD CONSTRAINT later CHECK (VALUE <> 'NONE') NOT VALID;
CREATE TYPE place AS (east numeric(8,1), north numeric(8,1), "in words" text COLLATE "C");
COMMENT ON COLUMN place.east IS 'metres';
CREATE TYPE level_range AS RANGE (SUBTYPE = float8, SUBTYPE_DIFF = float8mi);
CREATE COLLATION by_number (PROVIDER = icu, LOCALE = 'en-u-kn-true', DETERMINISTIC = false);
/*16 CREATE COLLATION by_rule (PROVIDER = icu, LOCALE = 'und', RULES = '&V << w <<< W');*/

-- Routines that need types, and types' checks that need routines.
CREATE FUNCTION is_even(n integer) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT n % 2 = 0';
CREATE DOMAIN even AS integer CHECK ("tide gauges".is_even(VALUE));
CREATE FUNCTION shout(t text, times integer DEFAULT 2, OUT loud text) LANGUAGE plpgsql IMMUTABLE STRICT PARALLEL SAFE COST 7 SET search_path = pg_catalog AS $body$
BEGIN loud := repeat(upper(t), times); -- $$ ; '
END $body$;
COMMENT ON FUNCTION shout(text, integer) IS 'louder';
CREATE PROCEDURE api.tidy(IN older interval DEFAULT '1 year') LANGUAGE plpgsql AS 'BEGIN DELETE FROM "tide gauges".reading WHERE at < now() - older; END';
CREATE FUNCTION add_up(state float8, v float8) RETURNS float8 LANGUAGE sql IMMUTABLE AS 'SELECT coalesce(state, 0) + coalesce(v, 0)';
CREATE AGGREGATE total(float8) (SFUNC = add_up, STYPE = float8, INITCOND = '0', PARALLEL = SAFE);
COMMENT ON AGGREGATE total(float8) IS 'nulls count as nothing';
CREATE FUNCTION nearly(a place, b place) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT abs((a).east - (b).east) < 1';
CREATE OPERATOR ~~~ (FUNCTION = nearly, LEFTARG = place, RIGHTARG = place, COMMUTATOR = ~~~, RESTRICT = eqsel, JOIN = eqjoinsel);
COMMENT ON OPERATOR ~~~ (place, place) IS 'close by';
CREATE FUNCTION as_text(p place) RETURNS text LANGUAGE sql IMMUTABLE AS 'SELECT (p).east || '' '' || (p).north';
CREATE CAST (place AS text) WITH FUNCTION as_text(place) AS ASSIGNMENT;
CREATE TEXT SEARCH DICTIONARY plain_words (TEMPLATE = simple, STOPWORDS = english);
CREATE TEXT SEARCH CONFIGURATION remarks (PARSER = default);
ALTER TEXT SEARCH CONFIGURATION remarks ADD MAPPING FOR asciiword, word WITH plain_words, english_stem;

-- Sequences of every kind.
CREATE SEQUENCE ticket AS smallint START 7 INCREMENT -3 MINVALUE -100 MAXVALUE 100 CACHE 5 CYCLE;
COMMENT ON SEQUENCE ticket IS 'goes down';
CREATE SEQUENCE by_hand;

CREATE TABLE "coast section" (
  id integer GENERATED ALWAYS AS IDENTITY (START WITH 100 INCREMENT BY 5 MAXVALUE 100000 CYCLE) PRIMARY KEY,
  "Name, with ""quotes""" text COLLATE by_number NOT NULL UNIQUE/*15  NULLS NOT DISTINCT*/,
  ticket smallint DEFAULT nextval('ticket'),
  reviewed date
) WITH (fillfactor = 70, autovacuum_enabled = false);
COMMENT ON TABLE "coast section" IS E'two\nlines';
COMMENT ON COLUMN "coast section"."Name, with ""quotes""" IS 'as people say it; not a code';

CREATE TABLE station (
  id bigserial CONSTRAINT "station key" PRIMARY KEY,
  code code NOT NULL,
  section_id integer NOT NULL REFERENCES "coast section" ON DELETE RESTRICT ON UPDATE CASCADE,
  replaced_by bigint,
  spot place,
  heights numeric(5,2)[] DEFAULT '{1.5,2.5}',
  levels level_range,
  shouted text GENERATED ALWAYS AS (shout(code::text, 1)) STORED,
  chief bigint,
  opened timestamp with time zone DEFAULT now(),
  odd_one even,
  remark text,
  CONSTRAINT "open long ago" CHECK (opened > '1900-01-01 00:00:00+00'::timestamptz) NO INHERIT,
  CONSTRAINT "code once" UNIQUE (code) INCLUDE (remark) WITH (fillfactor = 80) DEFERRABLE INITIALLY DEFERRED,
  EXCLUDE USING gist (levels WITH &&, section_id WITH =) WHERE (remark IS NOT NULL)
);
ALTER TABLE station ADD CONSTRAINT "successor" FOREIGN KEY (replaced_by) REFERENCES station (id) ON DELETE SET NULL DEFERRABLE;
ALTER TABLE station ADD CONSTRAINT not_yet CHECK (code <> 'OLD') NOT VALID;
ALTER TABLE station ALTER remark SET STORAGE EXTERNAL, ALTER remark SET STATISTICS 500/*14 , ALTER remark SET COMPRESSION pglz*/, ALTER code SET (n_distinct = -0.5);
ALTER TABLE station ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY "own section" ON station AS RESTRICTIVE FOR UPDATE TO PUBLIC USING (section_id > 1) WITH CHECK (section_id > 2);
COMMENT ON POLICY "own section" ON station IS 'each to their own';
COMMENT ON CONSTRAINT successor ON station IS 'what stands there now';
CREATE STATISTICS "of station" (ndistinct, dependencies) ON section_id, code FROM station;
/*13 ALTER STATISTICS "of station" SET STATISTICS 300;*/

-- A ring of two, and a table that refers to two ways at once.
CREATE TABLE keeper (id bigint PRIMARY KEY, station_id bigint NOT NULL REFERENCES station, deputy bigint REFERENCES keeper, code text);
ALTER TABLE station ADD CONSTRAINT station_chief FOREIGN KEY (chief) REFERENCES keeper (id) NOT VALID;
ALTER TABLE keeper REPLICA IDENTITY FULL;

-- Indexes.
CREATE INDEX station_lower ON station (lower(remark) COLLATE "C" text_pattern_ops DESC NULLS LAST, (section_id + 1)) WHERE remark IS NOT NULL AND section_id > 0;
CREATE UNIQUE INDEX "unique, partial" ON station USING btree (section_id, opened DESC) INCLUDE (remark)/*13  WITH (deduplicate_items = off)*/;
CREATE INDEX station_hash ON station USING hash (remark);
CREATE INDEX station_gin ON station USING gin (to_tsvector('simple', remark)) WITH (fastupdate = off);
CREATE INDEX station_gist ON station USING gist (to_tsvector('simple', remark) tsvector_ops/*13  (siglen = 100)*/);
CREATE INDEX station_brin ON station USING brin (opened) WITH (pages_per_range = 4);
COMMENT ON INDEX station_lower IS 'for the search page';
CLUSTER "coast section" USING "coast section_pkey";

-- Partitions of partitions, with a default; attached ones with columns in
-- another order; a partition with an index and a check of its own.
CREATE TABLE reading (station_id bigint NOT NULL REFERENCES station, at timestamptz NOT NULL, level real CHECK (level > -50), grade flag_quality, PRIMARY KEY (station_id, at)) PARTITION BY RANGE (at);
CREATE TABLE reading_2026 PARTITION OF reading FOR VALUES FROM ('2026-01-01 00:00:00+00') TO ('2027-01-01 00:00:00+00') PARTITION BY LIST (station_id);
CREATE TABLE "reading 2026 even" PARTITION OF reading_2026 FOR VALUES IN (2, 4);
CREATE TABLE "reading 2026 odd" PARTITION OF reading_2026 DEFAULT WITH (fillfactor = 50);
CREATE TABLE reading_rest PARTITION OF reading DEFAULT;
CREATE TABLE reading_2027 (level real, grade flag_quality, at timestamptz NOT NULL, station_id bigint NOT NULL, CHECK (level > -50), CONSTRAINT "own check" CHECK (level < 99));
ALTER TABLE reading_2027 DROP COLUMN level, ADD COLUMN level real, ADD CONSTRAINT reading_level_check CHECK (level > -50);
ALTER TABLE reading ATTACH PARTITION reading_2027 FOR VALUES FROM ('2027-01-01 00:00:00+00') TO (MAXVALUE);
CREATE INDEX reading_level ON reading (level);
CREATE INDEX "its own" ON reading_2027 (grade);
CREATE TABLE calibration (id uuid, part smallint, PRIMARY KEY (part, id)) PARTITION BY HASH (part);
CREATE TABLE calibration_0 PARTITION OF calibration FOR VALUES WITH (MODULUS 2, REMAINDER 0);
CREATE TABLE calibration_1 PARTITION OF calibration FOR VALUES WITH (MODULUS 2, REMAINDER 1);
CREATE TABLE calibration_note (part smallint, id uuid, note text, FOREIGN KEY (part, id) REFERENCES calibration MATCH FULL ON DELETE SET NULL/*15  (id)*/);
CREATE TABLE storm_alert (at date, code text) PARTITION BY RANGE ((at + 1), lower(code) COLLATE "C" text_pattern_ops);
CREATE TABLE never_cut (at date NOT NULL) PARTITION BY RANGE (at);

-- Heirs, and a table made of a type.
CREATE TABLE visit (id integer NOT NULL, at date DEFAULT CURRENT_DATE, note text, CHECK (note <> ''));
CREATE TABLE storm_visit (force integer, note text NOT NULL) INHERITS (visit);
ALTER TABLE storm_visit ALTER at SET DEFAULT '2026-01-01', ALTER id SET NOT NULL;
CREATE TABLE night_visit () INHERITS (storm_visit);
ALTER TABLE ONLY visit ADD PRIMARY KEY (id);
CREATE TABLE place_seen OF place (PRIMARY KEY (east, north), north WITH OPTIONS DEFAULT 0);
CREATE UNLOGGED TABLE part_stock (part text PRIMARY KEY, on_shelf integer);

-- Numbers by trigger; triggers of every kind.
CREATE TABLE feed_subscriber (id integer PRIMARY KEY, name text);
CREATE FUNCTION number_it() RETURNS trigger LANGUAGE plpgsql AS $$BEGIN NEW.id := nextval('"tide gauges".by_hand'); RETURN NEW; END$$;
CREATE TRIGGER "before all" BEFORE INSERT ON feed_subscriber FOR EACH ROW WHEN (NEW.id IS NULL) EXECUTE FUNCTION number_it();
CREATE FUNCTION nothing() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NULL; END';
CREATE TRIGGER after_change AFTER DELETE ON feed_subscriber REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION nothing('an ''argument''');
CREATE TRIGGER after_name AFTER UPDATE OF name OR DELETE ON feed_subscriber FOR EACH ROW EXECUTE FUNCTION nothing();
CREATE CONSTRAINT TRIGGER at_end AFTER INSERT ON feed_subscriber DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION nothing();
CREATE TRIGGER on_parts AFTER INSERT ON reading FOR EACH ROW EXECUTE FUNCTION nothing();
ALTER TABLE feed_subscriber DISABLE TRIGGER after_name;
COMMENT ON TRIGGER at_end ON feed_subscriber IS 'late';

-- Views on views, materialised ones, rules, and a routine that reads a view.
CREATE VIEW api.open_station WITH (security_barrier = true) AS SELECT s.id, s.code, c."Name, with ""quotes""" AS section FROM station s JOIN "coast section" c ON c.id = s.section_id WHERE s.replaced_by IS NULL;
CREATE VIEW api."by section" (section, "how many") AS SELECT section, count(*) FROM api.open_station GROUP BY section;
COMMENT ON VIEW api."by section" IS 'one row each';
COMMENT ON COLUMN api."by section"."how many" IS 'open ones';
CREATE VIEW simple_part AS SELECT part, on_shelf FROM part_stock WHERE on_shelf > 0 WITH LOCAL CHECK OPTION;
ALTER VIEW simple_part ALTER COLUMN on_shelf SET DEFAULT 1;
CREATE MATERIALIZED VIEW api.busy AS SELECT station_id, count(*) AS n FROM reading GROUP BY station_id WITH NO DATA;
CREATE UNIQUE INDEX busy_station ON api.busy (station_id);
CREATE FUNCTION api.how_many(s api."by section") RETURNS bigint LANGUAGE sql STABLE /*14 RETURN (s)."how many" + 1*//*-14 AS $sql$ SELECT (s)."how many" + 1 $sql$*/;
CREATE VIEW api.counted AS SELECT api.how_many(b) AS n FROM api."by section" b;
CREATE RULE "no new parts" AS ON INSERT TO simple_part DO INSTEAD NOTHING;
CREATE RULE log_it AS ON DELETE TO part_stock DO ALSO INSERT INTO feed_subscriber (id, name) VALUES (1, OLD.part);
ALTER TABLE part_stock DISABLE RULE log_it;
CREATE FUNCTION api.on_view() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END';
CREATE TRIGGER instead_of INSTEAD OF INSERT OR UPDATE ON api.open_station FOR EACH ROW EXECUTE FUNCTION api.on_view();
CREATE TABLE counted_part (n bigint DEFAULT api.how_many(NULL), whole api.open_station, list quality[]);

-- Elsewhere.
CREATE FOREIGN DATA WRAPPER none_such OPTIONS (debug 'true');
CREATE SERVER elsewhere TYPE 'files' VERSION '2' FOREIGN DATA WRAPPER none_such OPTIONS (host 'archive');
CREATE FOREIGN TABLE tide_table (at timestamptz OPTIONS (position '1') NOT NULL, level real DEFAULT 0, CHECK (level < 20)) SERVER elsewhere OPTIONS (file 'tides.txt');
COMMENT ON FOREIGN TABLE tide_table IS 'predictions';
CREATE FUNCTION api.watch() RETURNS event_trigger LANGUAGE plpgsql AS 'BEGIN END';
CREATE EVENT TRIGGER "watch drops" ON sql_drop WHEN TAG IN ('DROP TABLE', 'DROP INDEX') EXECUTE FUNCTION api.watch();
ALTER EVENT TRIGGER "watch drops" DISABLE;

-- 63 bytes, case pairs, and signs.
CREATE TABLE "sixty-three_bytes_of_a_name_which_is_as_long_as_a_name_may_be_x" ("a;b" integer, "A;B" integer, "line
feed" integer, "tab	" integer, "é ☃" integer);
CREATE TABLE "Reading" (id integer PRIMARY KEY);
CREATE TABLE "READING" (id integer PRIMARY KEY REFERENCES "Reading");

-- What the engine writes otherwise than it reads.
CREATE TABLE alert_station (code varchar(9) CHECK (code IN ('A', 'it''s', 'C, D')), "Kind; x" varchar(5) CHECK ("Kind; x" NOT IN ('no', 'none')), n integer CHECK (n IN (1, -2)));
CREATE INDEX alert_some ON alert_station (n) WHERE code IN ('A', 'B');
CREATE VIEW api.some_alert AS SELECT a.n FROM alert_station a WHERE a.code IN ('A', 'B') AND a."Kind; x" NOT IN ('x', 'y') AND a.n BETWEEN -1 AND 2 AND a.code LIKE 'A%';

-- A body in standard SQL, and a table that needs what needs the table.
CREATE FUNCTION api.newest(lowest bigint) RETURNS bigint LANGUAGE sql STABLE /*14 BEGIN ATOMIC SELECT count(*) FROM api."by section"; SELECT max(s.id) FROM station s WHERE s.id > lowest; END*//*-14 AS $sql$ SELECT count(*) FROM api."by section"; SELECT max(s.id) FROM station s WHERE s.id > lowest; $sql$*/;
CREATE VIEW api.latest AS SELECT id, code FROM station WHERE id >= 1 WITH CASCADED CHECK OPTION;
CREATE TABLE ring (a integer, b integer, CHECK (b > 0));
CREATE FUNCTION of_ring(r ring) RETURNS integer LANGUAGE sql IMMUTABLE AS 'SELECT coalesce((r).a, 1)';
ALTER TABLE ring ALTER a SET DEFAULT of_ring(NULL), ADD CHECK (of_ring(ring) > 0);
CREATE TABLE numbered (id integer GENERATED BY DEFAULT AS IDENTITY (START 5 INCREMENT 2), n integer NOT NULL DEFAULT nextval('ticket'), PRIMARY KEY (id), CONSTRAINT same UNIQUE (n, id) DEFERRABLE);
CREATE UNIQUE INDEX numbered_n ON numbered (n);
ALTER TABLE numbered REPLICA IDENTITY USING INDEX numbered_n;
CREATE TYPE mood AS ENUM ();
CREATE DOMAIN codes AS code[] CHECK (array_length(VALUE, 1) < 9);
CREATE TABLE moody (m mood, c codes DEFAULT '{AB}', t timestamp(3) without time zone, tz time(0) with time zone, iv interval day to second(2), b bit varying(5), ch "char", o oid, ip inet, x xml, p point, nn numeric(5/*15 ,-2*/));

-- An heir that joined later, one of two parents, and a column dropped meanwhile.
CREATE TABLE late_visit (note text, id integer NOT NULL, at date, CONSTRAINT visit_note_check CHECK (note <> ''));
ALTER TABLE late_visit INHERIT visit;
CREATE TABLE paid (price money, id integer NOT NULL);
CREATE TABLE paid_visit (id integer, who text) INHERITS (visit, paid);
CREATE TABLE dropped (a integer, b integer, c integer);
ALTER TABLE dropped DROP COLUMN b, ADD COLUMN d integer;
ALTER TABLE dropped ADD UNIQUE (c, d);
