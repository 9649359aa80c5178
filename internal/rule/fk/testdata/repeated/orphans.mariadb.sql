-- The way back puts the second one back, though rows have no parent.
SET foreign_key_checks = 0;
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL,
  CONSTRAINT visit_a FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT visit_b FOREIGN KEY (station_id) REFERENCES station (id) -- want: fk/repeated
);
CREATE INDEX visit_station ON visit (station_id);
INSERT INTO station VALUES (1);
INSERT INTO visit VALUES (1, 1), (2, 7);
