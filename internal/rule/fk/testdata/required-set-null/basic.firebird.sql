CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL,
  other_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL, -- want: fk/required-set-null
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE SET NULL);
INSERT INTO station VALUES (1);
INSERT INTO gauge VALUES (1, 1, NULL);
