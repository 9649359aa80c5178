-- probe
CREATE TABLE sheet (
  id INTEGER PRIMARY KEY, station INTEGER NOT NULL, day INTEGER, page INTEGER NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day) -- want: key/nullable-unique "no row has a null"
);
INSERT INTO sheet VALUES (1, 1, 1, 1), (2, 1, 2, 2);
