-- Partitions, inheritance, composite types, extensions, deferrable keys.
-- the fix brings key/generated-only: a number alone is better than no key, and not enough
CREATE TABLE reading (gauge_id bigint, taken date) PARTITION BY RANGE (taken);  -- want: key/none (no fix), partition/nullable-key
CREATE TABLE reading_2026 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2095-01-01');
CREATE TABLE person (name text);  -- want: key/none (no fix)
CREATE TABLE keeper (badge text) INHERITS (person);  -- want: key/none (no fix)
CREATE TYPE point_of_tide AS (taken date, level integer);
CREATE TABLE tide OF point_of_tide;  -- want: key/none (no fix)
CREATE TABLE later (code text NOT NULL UNIQUE DEFERRABLE, note text);  -- want: key/none
CREATE TABLE carried (code text NOT NULL, note text);  -- want: key/none
CREATE UNIQUE INDEX carried_code ON carried (code) INCLUDE (note);
CREATE TABLE partly (code text NOT NULL, note text);  -- want: key/none
CREATE UNIQUE INDEX partly_code ON partly (code) WHERE note IS NULL;
CREATE UNLOGGED TABLE quick (code text NOT NULL);  -- want: key/none
INSERT INTO later VALUES ('a', 'b');
