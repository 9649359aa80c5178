-- An index whose first column holds few values is searched value by value of it.
CREATE TABLE station (station_id integer PRIMARY KEY);
CREATE TABLE gauge (gauge_id integer PRIMARY KEY, kind text NOT NULL, station_id integer NOT NULL,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station);  -- want: fk/not-indexed "is searched in its place, once for each of 3 values of kind" (notice)
CREATE INDEX by_kind ON gauge (kind, station_id);
CREATE TABLE visit (visit_id integer PRIMARY KEY, code text NOT NULL, station_id integer NOT NULL,
  CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station);  -- want: fk/not-indexed "scans all of" (warning)
CREATE INDEX by_code ON visit (code, station_id);
CREATE TABLE task (task_id integer PRIMARY KEY, kind text NOT NULL, station_id integer NOT NULL,
  CONSTRAINT task_station FOREIGN KEY (station_id) REFERENCES station);  -- want: fk/not-indexed "index task_kind may serve, if kind holds few values"
CREATE INDEX task_kind ON task (kind, station_id);
INSERT INTO station SELECT g FROM generate_series(1, 300) g;
INSERT INTO gauge SELECT g, 'kind ' || g % 3, 1 + g % 300 FROM generate_series(1, 2000) g;
INSERT INTO visit SELECT g, 'V-' || g, 1 + g % 300 FROM generate_series(1, 2000) g;
ANALYZE gauge; ANALYZE visit;
-- from postgres 18
