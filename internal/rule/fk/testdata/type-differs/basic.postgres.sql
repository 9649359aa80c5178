-- Types that differ from the key's, and those that differ in name alone.
CREATE DOMAIN station_number AS bigint CHECK (value > 0);
CREATE TABLE station (id bigint PRIMARY KEY, code varchar(8) NOT NULL UNIQUE, height numeric(8,2) NOT NULL UNIQUE, label text NOT NULL UNIQUE);
CREATE TABLE gauge (
  id bigint PRIMARY KEY,
  station_id integer NOT NULL REFERENCES station (id),               -- want: fk/type-differs "cannot hold every key"
  station_code varchar(6) REFERENCES station (code),                 -- want: fk/type-differs
  height numeric(6,2) REFERENCES station (height),                   -- want: fk/type-differs
  label varchar(20) REFERENCES station (label),                      -- want: fk/type-differs
  domain_id station_number REFERENCES station (id)
);
CREATE INDEX ON gauge (station_id);
CREATE INDEX ON gauge (station_code);
CREATE INDEX ON gauge (height);
CREATE INDEX ON gauge (label);
CREATE INDEX ON gauge (domain_id);

-- Larger than it need be: reported, but harmless.
CREATE TABLE small (id smallint PRIMARY KEY);
CREATE TABLE wide (id bigint PRIMARY KEY, small_id bigint REFERENCES small (id));  -- want: fk/type-differs "no key can have"
CREATE INDEX ON wide (small_id);

-- A chain: what refers to the referring column follows it.
CREATE TABLE head (id bigint PRIMARY KEY);
CREATE TABLE middle (id integer PRIMARY KEY REFERENCES head (id));                 -- want: fk/type-differs
CREATE TABLE tail (id bigint PRIMARY KEY, middle_id integer REFERENCES middle (id));
CREATE INDEX ON tail (middle_id);

INSERT INTO station VALUES (1, 'A', 1.5, 'one'), (2, 'B', 2.25, 'two');
INSERT INTO gauge VALUES (1, 1, 'A', 1.5, 'one', 1), (2, 2, NULL, NULL, NULL, NULL);
INSERT INTO small VALUES (7); INSERT INTO wide VALUES (1, 7);
INSERT INTO head VALUES (1); INSERT INTO middle VALUES (1); INSERT INTO tail VALUES (1, 1);
