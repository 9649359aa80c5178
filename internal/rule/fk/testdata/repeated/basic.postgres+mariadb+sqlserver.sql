CREATE TABLE station (id integer NOT NULL PRIMARY KEY, part integer NOT NULL);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, other_id integer NOT NULL,
  CONSTRAINT visit_a FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT visit_b FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, -- want: fk/repeated "visit_b|also by visit_a" (no fix)
  CONSTRAINT visit_c FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX visit_station ON visit (station_id);
CREATE INDEX visit_other ON visit (other_id);
