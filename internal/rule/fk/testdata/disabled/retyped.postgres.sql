-- Off it stays where only the type of its column changes.
CREATE TABLE station (id bigint PRIMARY KEY);
CREATE TABLE gauge (
  id integer PRIMARY KEY, station_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) -- want: fk/type-differs, fk/disabled
);
CREATE INDEX gauge_station_idx ON gauge (station_id);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1), (2, NULL);
ALTER TABLE gauge DISABLE TRIGGER ALL;
