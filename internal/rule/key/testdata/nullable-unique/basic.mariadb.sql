-- probe
CREATE TABLE sheet (
  id integer NOT NULL PRIMARY KEY, station integer NOT NULL, day integer, page integer NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day), -- want: key/nullable-unique
  CONSTRAINT sheet_page UNIQUE (station, page)
);
INSERT INTO sheet VALUES (1, 1, 1, 1), (2, 1, 2, 2);
