-- Values that never repeat, others that do, and others again that merely do not among so many parents.
-- probe
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE sheet ( -- want: fk/one-to-one (no fix)
  id NUMBER(10) NOT NULL PRIMARY KEY, station_id NUMBER(10) NOT NULL, other_id NUMBER(10) NOT NULL,
  CONSTRAINT sheet_station FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT sheet_other FOREIGN KEY (other_id) REFERENCES station (id)
);
CREATE INDEX sheet_by_station ON sheet (station_id);
CREATE INDEX sheet_by_other ON sheet (other_id);
INSERT INTO station VALUES (1); INSERT INTO station VALUES (2); INSERT INTO station VALUES (3); INSERT INTO station VALUES (4); INSERT INTO station VALUES (5); INSERT INTO station VALUES (6); INSERT INTO station VALUES (7); INSERT INTO station VALUES (8); INSERT INTO station VALUES (9); INSERT INTO station VALUES (10); INSERT INTO station VALUES (11); INSERT INTO station VALUES (12); INSERT INTO station VALUES (13); INSERT INTO station VALUES (14); INSERT INTO station VALUES (15); INSERT INTO station VALUES (16); INSERT INTO station VALUES (17); INSERT INTO station VALUES (18); INSERT INTO station VALUES (19); INSERT INTO station VALUES (20); INSERT INTO station VALUES (21); INSERT INTO station VALUES (22); INSERT INTO station VALUES (23); INSERT INTO station VALUES (24); INSERT INTO station VALUES (25); INSERT INTO station VALUES (26); INSERT INTO station VALUES (27); INSERT INTO station VALUES (28); INSERT INTO station VALUES (29); INSERT INTO station VALUES (30); INSERT INTO station VALUES (31); INSERT INTO station VALUES (32); INSERT INTO station VALUES (33); INSERT INTO station VALUES (34); INSERT INTO station VALUES (35); INSERT INTO station VALUES (36); INSERT INTO station VALUES (37); INSERT INTO station VALUES (38); INSERT INTO station VALUES (39); INSERT INTO station VALUES (40);
INSERT INTO sheet VALUES (1, 1, 2); INSERT INTO sheet VALUES (2, 2, 3); INSERT INTO sheet VALUES (3, 3, 4); INSERT INTO sheet VALUES (4, 4, 5); INSERT INTO sheet VALUES (5, 5, 6); INSERT INTO sheet VALUES (6, 6, 7); INSERT INTO sheet VALUES (7, 7, 1); INSERT INTO sheet VALUES (8, 8, 2); INSERT INTO sheet VALUES (9, 9, 3); INSERT INTO sheet VALUES (10, 10, 4); INSERT INTO sheet VALUES (11, 11, 5); INSERT INTO sheet VALUES (12, 12, 6); INSERT INTO sheet VALUES (13, 13, 7); INSERT INTO sheet VALUES (14, 14, 1); INSERT INTO sheet VALUES (15, 15, 2); INSERT INTO sheet VALUES (16, 16, 3); INSERT INTO sheet VALUES (17, 17, 4); INSERT INTO sheet VALUES (18, 18, 5); INSERT INTO sheet VALUES (19, 19, 6); INSERT INTO sheet VALUES (20, 20, 7); INSERT INTO sheet VALUES (21, 21, 1); INSERT INTO sheet VALUES (22, 22, 2); INSERT INTO sheet VALUES (23, 23, 3); INSERT INTO sheet VALUES (24, 24, 4); INSERT INTO sheet VALUES (25, 25, 5); INSERT INTO sheet VALUES (26, 26, 6); INSERT INTO sheet VALUES (27, 27, 7); INSERT INTO sheet VALUES (28, 28, 1); INSERT INTO sheet VALUES (29, 29, 2); INSERT INTO sheet VALUES (30, 30, 3);
CREATE TABLE buoy (id NUMBER(10) NOT NULL PRIMARY KEY);
INSERT INTO buoy SELECT a.id + 40 * (b.id - 1) FROM station a, station b WHERE b.id <= 23;
CREATE TABLE photo (id NUMBER(10) NOT NULL PRIMARY KEY, buoy_id NUMBER(10) NOT NULL, CONSTRAINT photo_buoy FOREIGN KEY (buoy_id) REFERENCES buoy (id));
CREATE INDEX photo_by_buoy ON photo (buoy_id);
INSERT INTO photo SELECT id, id * 13 FROM sheet;
CREATE TABLE mooring (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  buoy_id NUMBER(10) NOT NULL -- want: fk/missing, fk/one-to-one (no fix)
);
CREATE INDEX mooring_by_buoy ON mooring (buoy_id);
INSERT INTO mooring SELECT id + 9000, id FROM buoy WHERE id % 3 > 0;
