-- Nulls are alike: a key of one column takes a single row without a value.
CREATE TABLE sheet (
  id integer NOT NULL PRIMARY KEY, station integer NOT NULL, day integer, page integer, folio integer NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day),
  CONSTRAINT sheet_page UNIQUE (page DESC) WITH (FILLFACTOR = 80), -- want: key/nullable-unique "only one row"
  CONSTRAINT sheet_folio UNIQUE (folio)
);
INSERT INTO sheet VALUES (1, 1, 1, 1, 1), (2, 1, NULL, NULL, 2);
-- choose key/nullable-unique leave-nulls-out
