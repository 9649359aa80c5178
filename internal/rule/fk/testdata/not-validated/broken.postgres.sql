-- The data is known to break it.
-- probe
CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE visit (id integer PRIMARY KEY, station_id integer NOT NULL);
CREATE INDEX i1 ON visit (station_id);
INSERT INTO station VALUES (1), (2); INSERT INTO visit VALUES (1, 1), (2, 7);
ALTER TABLE visit ADD CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id) NOT VALID; -- want: fk/violated (no fix)
