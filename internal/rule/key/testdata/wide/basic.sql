-- not mysql: the stand-in has no invisible columns
-- Four columns that others refer to; one that nobody refers to, and one that is all references.
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE sheet (
  station_id integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL,
  PRIMARY KEY (station_id, year, page, line), -- want: key/wide
  CONSTRAINT sheet_station FOREIGN KEY (station_id) REFERENCES station (id)
);
CREATE TABLE mark (
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL,
  CONSTRAINT mark_sheet FOREIGN KEY (station_id, year, page, line) REFERENCES sheet (station_id, year, page, line)
);
CREATE INDEX mark_sheet_idx ON mark (station_id, year, page, line);
CREATE TABLE alone (a integer NOT NULL, b integer NOT NULL, c integer NOT NULL, d integer NOT NULL, PRIMARY KEY (a, b, c, d));
INSERT INTO station VALUES (1), (2);
INSERT INTO sheet VALUES (1, 2024, 1, 1), (1, 2024, 1, 2), (2, 2024, 7, 3);
INSERT INTO mark VALUES (1, 1, 2024, 1, 2), (2, 1, 2024, 1, 2), (3, 2, 2024, 7, 3);
