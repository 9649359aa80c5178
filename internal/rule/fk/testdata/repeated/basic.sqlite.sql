CREATE TABLE station (id INTEGER PRIMARY KEY);
CREATE TABLE visit (
  id INTEGER PRIMARY KEY, other_id INTEGER REFERENCES station (id),
  station_id INTEGER REFERENCES station (id) REFERENCES station (id) ON DELETE CASCADE -- want: fk/repeated (no fix)
);
CREATE INDEX visit_station ON visit (station_id);
CREATE INDEX visit_other ON visit (other_id);
