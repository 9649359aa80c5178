-- A sequence of 32 bits behind a column of 32, one that ends early, one of 32 bits behind a column of 64, and one that two draw from.
CREATE TABLE station (id serial PRIMARY KEY, code text NOT NULL UNIQUE); -- want: key/nearly-full, column/generated-legacy
SELECT setval('station_id_seq', 1900000000);
CREATE TABLE gauge (id bigserial PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id)); -- want: column/generated-legacy
CREATE INDEX ON gauge (station_id);
CREATE SEQUENCE visits MAXVALUE 1000;
CREATE TABLE visit (id bigint PRIMARY KEY DEFAULT nextval('visits'), code text NOT NULL UNIQUE); -- want: key/nearly-full
SELECT setval('visits', 900);
CREATE SEQUENCE small AS integer;
CREATE TABLE reading (id bigint PRIMARY KEY DEFAULT nextval('small'), code text NOT NULL UNIQUE); -- want: key/nearly-full
SELECT setval('small', 2000000000);
CREATE SEQUENCE both_of_them MAXVALUE 100;
CREATE TABLE buoy (id bigint PRIMARY KEY DEFAULT nextval('both_of_them'), code text NOT NULL UNIQUE); -- want: key/nearly-full (no fix), sequence/shared
CREATE TABLE mooring (id bigint PRIMARY KEY DEFAULT nextval('both_of_them'), code text NOT NULL UNIQUE); -- want: key/nearly-full (no fix)
SELECT setval('both_of_them', 99);
