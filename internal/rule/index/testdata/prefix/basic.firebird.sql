CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL, height integer);
CREATE INDEX station_a ON station (code); -- want: index/prefix
CREATE INDEX station_b ON station (code, height);
CREATE DESCENDING INDEX station_c ON station (code);
CREATE UNIQUE INDEX station_d ON station (height);
-- The index of a foreign key goes with it alone, and serves as any other.
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id), kind integer NOT NULL);
CREATE INDEX gauge_both ON gauge (station_id, kind);
