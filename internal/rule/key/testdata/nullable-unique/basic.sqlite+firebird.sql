-- probe
CREATE TABLE sheet (
  id INTEGER PRIMARY KEY, station INTEGER NOT NULL, day INTEGER, page INTEGER NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day) -- want: key/nullable-unique "no row has a null"
);
INSERT INTO sheet VALUES (1, 1, 1, 1), (2, 1, 2, 2);

-- A check that forbids null requires its column: the rest can repeat, or nothing can.
CREATE TABLE roster (
  id integer NOT NULL PRIMARY KEY, station integer, day integer, watch integer,
  CONSTRAINT roster_day CHECK (day IS NOT NULL), CONSTRAINT roster_watch CHECK (watch IS NOT NULL),
  CONSTRAINT roster_station UNIQUE (station, day), -- want: key/nullable-unique "where station is null"
  CONSTRAINT roster_once UNIQUE (watch)
);
