-- set fk/house-actions on-delete no action, set null
CREATE TABLE station (id NUMBER(10) PRIMARY KEY);
CREATE TABLE gauge (
  id NUMBER(10) PRIMARY KEY, station_id NUMBER(10), other_id NUMBER(10),
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, -- want: fk/house-actions
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1, NULL);
