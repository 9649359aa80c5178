-- What is declared NOT ENFORCED, nobody asked the data.
CREATE TABLE station (station_id integer PRIMARY KEY, code text NOT NULL UNIQUE);
CREATE TABLE gauge (
  gauge_id integer PRIMARY KEY,
  station_id integer NOT NULL,
  depth integer,
  CONSTRAINT depth_low CHECK (depth > 0) NOT ENFORCED,  -- want: key/unenforced "depth_low is declared and not enforced" (warning)
  CONSTRAINT depth_high CHECK (depth < 9000),
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station ON DELETE CASCADE DEFERRABLE NOT ENFORCED  -- want: key/unenforced "nothing checks"
);
COMMENT ON CONSTRAINT gauge_station ON gauge IS 'not yet';
COMMENT ON CONSTRAINT depth_low ON gauge IS 'nor this';
CREATE INDEX ON gauge (station_id);
INSERT INTO station VALUES (1, 'S1'), (2, 'S2');
INSERT INTO gauge VALUES (1, 1, 5), (2, 2, NULL);
-- choose key/unenforced enforce
-- from postgres 18
