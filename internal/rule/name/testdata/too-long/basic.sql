-- set name/too-long bytes 20
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  height_of_the_gauge_above_datum integer, -- want: name/too-long (no fix)
  depth integer
);
