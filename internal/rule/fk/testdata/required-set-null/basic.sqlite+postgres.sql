-- Actions that would empty a required column.
CREATE TABLE station (id integer PRIMARY KEY, part integer NOT NULL DEFAULT 1, UNIQUE (id, part));
CREATE TABLE gauge (
  id integer PRIMARY KEY,
  station_id integer NOT NULL,
  spare_id integer REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL ON UPDATE CASCADE  -- want: fk/required-set-null "deleting a referenced row of station"
);
CREATE INDEX gauge_station_idx ON gauge (station_id);
CREATE INDEX gauge_spare_idx ON gauge (spare_id);

-- Both events; the column is part of the primary key, so that it can never be null.
CREATE TABLE level (
  station_id integer NOT NULL,
  kind integer NOT NULL,
  PRIMARY KEY (station_id, kind),
  CONSTRAINT level_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL ON UPDATE SET NULL  -- want: fk/required-set-null "deleting or changing the key"
);

-- SET DEFAULT with and without a default to set.
CREATE TABLE visit (
  id integer PRIMARY KEY,
  station_id integer NOT NULL DEFAULT 1 REFERENCES station (id) ON DELETE SET DEFAULT,
  other_id integer NOT NULL,
  free_id integer REFERENCES station (id) ON DELETE SET DEFAULT,
  CONSTRAINT visit_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE SET DEFAULT  -- want: fk/required-set-null "SET DEFAULT"
);
CREATE INDEX visit_station_idx ON visit (station_id);
CREATE INDEX visit_other_idx ON visit (other_id);
CREATE INDEX visit_free_idx ON visit (free_id);

-- A combined key of which one column may be null and the other not.
CREATE TABLE pair (
  id integer PRIMARY KEY,
  station_id integer, part integer NOT NULL,
  CONSTRAINT pair_station FOREIGN KEY (station_id, part) REFERENCES station (id, part) ON DELETE SET NULL  -- want: fk/required-set-null
);
CREATE INDEX pair_station_idx ON pair (station_id, part);
INSERT INTO station VALUES (1, 1), (2, 1);
INSERT INTO gauge VALUES (1, 1, NULL), (2, 2, 1);
INSERT INTO level VALUES (1, 1);
INSERT INTO visit VALUES (1, 1, 2, NULL);
INSERT INTO pair VALUES (1, 1, 1), (2, NULL, 1);
