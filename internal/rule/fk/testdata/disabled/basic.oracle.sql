CREATE TABLE station (id NUMBER(10) PRIMARY KEY);
CREATE TABLE gauge (
  id NUMBER(10) PRIMARY KEY, station_id NUMBER(10),
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL -- want: fk/disabled
);
CREATE INDEX gauge_by_station ON gauge (station_id);
INSERT INTO station VALUES (1); INSERT INTO station VALUES (2);
INSERT INTO gauge VALUES (1, 1); INSERT INTO gauge VALUES (2, NULL);
ALTER TABLE gauge DISABLE CONSTRAINT gauge_station;
