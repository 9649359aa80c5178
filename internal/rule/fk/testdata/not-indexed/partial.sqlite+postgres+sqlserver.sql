-- A partial index serves a reference only where it leaves out nothing but nulls.
CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE visit (
  id integer PRIMARY KEY,
  station_id integer REFERENCES station (id),
  old_station_id integer REFERENCES station (id),  -- want: fk/not-indexed
  done integer NOT NULL
);
CREATE INDEX visit_station ON visit (station_id) WHERE station_id IS NOT NULL;
CREATE INDEX visit_old_station ON visit (old_station_id) WHERE done = 1;
