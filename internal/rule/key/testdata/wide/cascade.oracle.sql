-- A mark that may stand on no sheet, and goes with it.
CREATE TABLE sheet (
  station VARCHAR2(40 CHAR) NOT NULL, title VARCHAR2(60 CHAR) NOT NULL, page NUMBER(10) NOT NULL,
  PRIMARY KEY (station, title, page) -- want: key/wide
);
CREATE TABLE mark (
  id NUMBER(10) NOT NULL PRIMARY KEY, station VARCHAR2(40 CHAR), title VARCHAR2(60 CHAR), page NUMBER(10), depth NUMBER(10),
  CONSTRAINT mark_sheet FOREIGN KEY (station, title, page) REFERENCES sheet (station, title, page) ON DELETE CASCADE,
  CONSTRAINT mark_whole CHECK (station IS NULL AND title IS NULL AND page IS NULL OR station IS NOT NULL AND title IS NOT NULL AND page IS NOT NULL)
);
CREATE INDEX mark_sheet_idx ON mark (station, title, page);
INSERT INTO sheet VALUES ('north', 'first', 1); INSERT INTO sheet VALUES ('north', 'second', 2);
INSERT INTO mark VALUES (1, 'north', 'second', 2, 4); INSERT INTO mark VALUES (2, NULL, NULL, NULL, 5);
