-- An index goes in one order as a whole, and one the other way round serves other searches.
-- the fix ends key/nullable-unique: the second unique index is gone
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL, height integer, seen timestamp);
CREATE INDEX station_a ON station (code, height);
CREATE INDEX station_b ON station (code, height); -- want: index/repeated
CREATE DESCENDING INDEX station_c ON station (code, height);
CREATE INDEX station_d ON station (height, code);
CREATE INDEX station_e ON station COMPUTED BY (UPPER(code));
CREATE INDEX station_f ON station COMPUTED BY (upper (code));
CREATE UNIQUE INDEX station_g ON station (seen);
CREATE UNIQUE INDEX station_h ON station (seen); -- want: index/repeated
COMMENT ON INDEX station_h IS 'the second';
