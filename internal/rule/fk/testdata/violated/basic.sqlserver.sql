-- Rows without a parent although a foreign key is declared.
-- probe
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL
);
CREATE INDEX visit_station ON visit (station_id);
INSERT INTO station VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9), (10);
INSERT INTO visit VALUES (1, 2), (2, 3), (3, 4), (4, 5), (5, 6), (6, 7), (7, 8), (8, 9), (9, 10), (10, 11), (11, 12), (12, 1), (13, 2), (14, 3), (15, 4), (16, 5), (17, 6), (18, 7), (19, 8), (20, 9), (21, 10), (22, 11), (23, 12), (24, 1), (25, 2), (26, 3), (27, 4), (28, 5), (29, 6), (30, 7), (31, 8), (32, 9), (33, 10), (34, 11), (35, 12), (36, 1);
ALTER TABLE visit WITH NOCHECK ADD CONSTRAINT visit_of FOREIGN KEY (station_id) REFERENCES station (id); -- want: fk/violated "6 of 36 rows have no parent in station: 11, 12" (no fix)
