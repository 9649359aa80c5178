-- Four columns that others refer to; one that nobody refers to, and one that is all references.
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE sheet (
  station_id NUMBER(10) NOT NULL, year NUMBER(10) NOT NULL, page NUMBER(10) NOT NULL, line NUMBER(10) NOT NULL,
  PRIMARY KEY (station_id, year, page, line), -- want: key/wide
  CONSTRAINT sheet_station FOREIGN KEY (station_id) REFERENCES station (id)
);
CREATE TABLE mark (
  id NUMBER(10) NOT NULL PRIMARY KEY, station_id NUMBER(10) NOT NULL, year NUMBER(10) NOT NULL, page NUMBER(10) NOT NULL, line NUMBER(10) NOT NULL,
  CONSTRAINT mark_sheet FOREIGN KEY (station_id, year, page, line) REFERENCES sheet (station_id, year, page, line)
);
CREATE INDEX mark_sheet_idx ON mark (station_id, year, page, line);
CREATE TABLE alone (a NUMBER(10) NOT NULL, b NUMBER(10) NOT NULL, c NUMBER(10) NOT NULL, d NUMBER(10) NOT NULL, PRIMARY KEY (a, b, c, d));
INSERT INTO station VALUES (1); INSERT INTO station VALUES (2);
INSERT INTO sheet VALUES (1, 2024, 1, 1); INSERT INTO sheet VALUES (1, 2024, 1, 2); INSERT INTO sheet VALUES (2, 2024, 7, 3);
INSERT INTO mark VALUES (1, 1, 2024, 1, 2); INSERT INTO mark VALUES (2, 1, 2024, 1, 2); INSERT INTO mark VALUES (3, 2, 2024, 7, 3);
