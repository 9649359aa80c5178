CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE gauge (
  id integer PRIMARY KEY, station_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL -- want: fk/disabled
);
CREATE INDEX gauge_by_station ON gauge (station_id);
INSERT INTO station VALUES (1), (2);
INSERT INTO gauge VALUES (1, 1), (2, NULL);
ALTER TABLE gauge NOCHECK CONSTRAINT gauge_station;
