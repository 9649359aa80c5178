-- not sqlserver: the old reference stays beside the new one, and two with actions between two tables are refused (error 1785)
-- not mysql: the stand-in fills no column by a join
-- A mark that may stand on no sheet, and goes with it.
CREATE TABLE sheet (
  station varchar(40) NOT NULL, title varchar(60) NOT NULL, page integer NOT NULL,
  PRIMARY KEY (station, title, page) -- want: key/wide
);
CREATE TABLE mark (
  id integer NOT NULL PRIMARY KEY, station varchar(40), title varchar(60), page integer, depth integer,
  CONSTRAINT mark_sheet FOREIGN KEY (station, title, page) REFERENCES sheet (station, title, page) ON DELETE CASCADE,
  CONSTRAINT mark_whole CHECK (station IS NULL AND title IS NULL AND page IS NULL OR station IS NOT NULL AND title IS NOT NULL AND page IS NOT NULL)
);
CREATE INDEX mark_sheet_idx ON mark (station, title, page);
INSERT INTO sheet VALUES ('north', 'first', 1), ('north', 'second', 2);
INSERT INTO mark VALUES (1, 'north', 'second', 2, 4), (2, NULL, NULL, NULL, 5);
