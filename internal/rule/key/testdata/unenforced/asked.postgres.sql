-- The data was asked: what holds may be enforced without further ado, what is broken is worse.
-- probe
CREATE TABLE station (station_id integer PRIMARY KEY);
CREATE TABLE gauge (
  gauge_id integer PRIMARY KEY,
  station_id integer NOT NULL,
  old_id integer NOT NULL,
  depth integer,
  height integer,
  CONSTRAINT depth_low CHECK (depth > 0) NOT ENFORCED,  -- want: key/unenforced "all rows keep it so far" (warning)
  CONSTRAINT height_low CHECK (height > 0) NOT ENFORCED,  -- want: check/violated "2 rows break" (no fix)
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station NOT ENFORCED,  -- want: key/unenforced "all rows keep it so far" (warning)
  CONSTRAINT gauge_old FOREIGN KEY (old_id) REFERENCES station NOT ENFORCED  -- want: fk/violated "4 of 40 rows have no parent" (no fix)
);
CREATE INDEX ON gauge (station_id);
CREATE INDEX ON gauge (old_id);
INSERT INTO station SELECT g FROM generate_series(1, 20) g;
INSERT INTO gauge SELECT g, 1 + g % 20, CASE WHEN g % 10 = 0 THEN 90 + g ELSE 1 + (g * 7) % 20 END, 10 + g, CASE WHEN g < 3 THEN -g ELSE g END FROM generate_series(1, 40) g;
-- from postgres 18
