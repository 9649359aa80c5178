-- The server refuses SET NULL on what is required; a default that is no station it does not see.
CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE gauge (
  id integer PRIMARY KEY, station_id integer,
  other_id integer NOT NULL, -- no default
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
CREATE TABLE mark (
  id integer PRIMARY KEY, station_id integer NOT NULL,
  CONSTRAINT mark_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET DEFAULT -- want: fk/required-set-null
);
CREATE INDEX mark_by_station ON mark (station_id);
