-- set fk/house-actions on-delete no action, set null
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE gauge (
  id integer NOT NULL PRIMARY KEY, station_id integer,
  other_id integer, third_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, -- want: fk/house-actions
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_third FOREIGN KEY (third_id) REFERENCES station (id)
);
CREATE INDEX g1 ON gauge (station_id);
CREATE INDEX g2 ON gauge (other_id);
CREATE INDEX g3 ON gauge (third_id);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1, 1, NULL);
