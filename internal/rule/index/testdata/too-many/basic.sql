CREATE TABLE station (id integer NOT NULL PRIMARY KEY, a integer, b integer, c integer, d integer, e integer, f integer, g integer, h integer, i integer, j integer, k integer); -- want: index/too-many "has 1[12] indexes" (no fix)
CREATE INDEX station_by_a ON station (a);
CREATE INDEX station_by_b ON station (b);
CREATE INDEX station_by_c ON station (c);
CREATE INDEX station_by_d ON station (d);
CREATE INDEX station_by_e ON station (e);
CREATE INDEX station_by_f ON station (f);
CREATE INDEX station_by_g ON station (g);
CREATE INDEX station_by_h ON station (h);
CREATE INDEX station_by_i ON station (i);
CREATE INDEX station_by_j ON station (j);
CREATE INDEX station_by_k ON station (k);
CREATE TABLE few (id integer NOT NULL PRIMARY KEY, a integer);
CREATE INDEX few_a ON few (a);
