CREATE TABLE station (id integer NOT NULL PRIMARY KEY, a integer, b integer, c integer, d integer, e integer, f integer);
CREATE INDEX station_six ON station (a, b, c, d, e, f); -- want: index/too-wide "station_six has 6 columns" (no fix)
CREATE INDEX station_five ON station (b, c, d, e, f);
