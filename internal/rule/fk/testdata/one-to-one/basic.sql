-- Values that never repeat, others that do, and others again that merely do not among so many parents.
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
CREATE TABLE buoy (id integer NOT NULL PRIMARY KEY);
INSERT INTO buoy SELECT a.id + 40 * (b.id - 1) FROM station a, station b WHERE b.id <= 23;
CREATE TABLE photo (id integer NOT NULL PRIMARY KEY, buoy_id integer NOT NULL, CONSTRAINT photo_buoy FOREIGN KEY (buoy_id) REFERENCES buoy (id));
CREATE INDEX photo_by_buoy ON photo (buoy_id);
INSERT INTO photo SELECT id, id * 13 FROM sheet;
CREATE TABLE mooring (
  id integer NOT NULL PRIMARY KEY,
  buoy_id integer NOT NULL -- want: fk/missing, fk/one-to-one (no fix)
);
CREATE INDEX mooring_by_buoy ON mooring (buoy_id);
INSERT INTO mooring SELECT id + 9000, id FROM buoy WHERE id % 3 > 0;
