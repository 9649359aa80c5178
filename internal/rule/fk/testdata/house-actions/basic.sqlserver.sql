-- set fk/house-actions on-delete no action, set null
CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE gauge (
  id integer PRIMARY KEY, station_id integer, other_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, -- want: fk/house-actions
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1, NULL);
