-- References that name the table alone mean its primary key, whichever that is.
CREATE TABLE sheet (place integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL, -- want: key/wide
  PRIMARY KEY (place, year, page, line)
);
CREATE TABLE mark (
  id INTEGER PRIMARY KEY, place integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL,
  FOREIGN KEY (place, year, page, line) REFERENCES sheet -- the line marked
);
CREATE INDEX mark_sheet ON mark (place, year, page, line);
INSERT INTO sheet VALUES (1, 2026, 1, 1), (1, 2026, 1, 2);
INSERT INTO mark VALUES (1, 1, 2026, 1, 1), (2, 1, 2026, 1, 2);
