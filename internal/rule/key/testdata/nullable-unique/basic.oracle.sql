-- Any number of rows without a value, and of a combined key those that are null in all of it.
CREATE TABLE sheet (
  id NUMBER(10) NOT NULL PRIMARY KEY, station NUMBER(10) NOT NULL, day NUMBER(10), page NUMBER(10), folio NUMBER(10) NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day),
  CONSTRAINT sheet_both UNIQUE (day, page), -- want: key/nullable-unique (no fix)
  CONSTRAINT sheet_page UNIQUE (page), -- want: key/nullable-unique "any number of rows" (no fix)
  CONSTRAINT sheet_folio UNIQUE (folio)
);
INSERT INTO sheet VALUES (1, 1, 1, 1, 1); INSERT INTO sheet VALUES (2, 1, NULL, NULL, 2);
