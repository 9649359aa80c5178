CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX g1 ON gauge (station_id);
CREATE TABLE mark (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, CONSTRAINT mark_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX m1 ON mark (station_id);
CREATE TABLE leftover (id integer NOT NULL PRIMARY KEY, what varchar(40)); -- want: fk/island (no fix)
