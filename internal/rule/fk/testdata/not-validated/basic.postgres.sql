CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE visit (id integer PRIMARY KEY, station_id integer NOT NULL, other_id integer REFERENCES station (id));
CREATE INDEX i1 ON visit (station_id); CREATE INDEX i2 ON visit (other_id);
INSERT INTO station VALUES (1), (2); INSERT INTO visit VALUES (1, 1, 2), (2, 2, NULL);
ALTER TABLE visit ADD CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE NOT VALID; -- want: fk/not-validated "visit_station was added without checking"
