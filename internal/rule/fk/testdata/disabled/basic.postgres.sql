CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE gauge (
  id integer PRIMARY KEY, station_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) -- want: fk/disabled
);
CREATE INDEX gauge_station_idx ON gauge (station_id);
CREATE TABLE mark (id integer PRIMARY KEY, station_id integer REFERENCES station (id));
CREATE INDEX ON mark (station_id);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1), (2, NULL);
ALTER TABLE gauge DISABLE TRIGGER ALL;
