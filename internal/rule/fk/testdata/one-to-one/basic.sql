-- Values that never repeat, and others that do.
-- probe
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE sheet ( -- want: fk/one-to-one
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, other_id integer NOT NULL,
  CONSTRAINT sheet_station FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT sheet_other FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX sheet_by_station ON sheet (station_id);
CREATE INDEX sheet_by_other ON sheet (other_id);
INSERT INTO station VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9), (10), (11), (12), (13), (14), (15), (16), (17), (18), (19), (20), (21), (22), (23), (24), (25), (26), (27), (28), (29), (30), (31), (32), (33), (34), (35), (36), (37), (38), (39), (40);
INSERT INTO sheet VALUES (1, 1, 2), (2, 2, 3), (3, 3, 4), (4, 4, 5), (5, 5, 6), (6, 6, 7), (7, 7, 1), (8, 8, 2), (9, 9, 3), (10, 10, 4), (11, 11, 5), (12, 12, 6), (13, 13, 7), (14, 14, 1), (15, 15, 2), (16, 16, 3), (17, 17, 4), (18, 18, 5), (19, 19, 6), (20, 20, 7), (21, 21, 1), (22, 22, 2), (23, 23, 3), (24, 24, 4), (25, 25, 5), (26, 26, 6), (27, 27, 7), (28, 28, 1), (29, 29, 2), (30, 30, 3);
