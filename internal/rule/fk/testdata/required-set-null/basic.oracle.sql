CREATE TABLE station (id NUMBER(10) PRIMARY KEY);
CREATE TABLE gauge (
  id NUMBER(10) PRIMARY KEY, station_id NUMBER(10),
  other_id NUMBER(10) NOT NULL,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE SET NULL -- want: fk/required-set-null
);
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
