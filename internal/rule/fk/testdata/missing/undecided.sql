-- not mysql: the stand-in reads no table of the name
-- References that nobody decided about: no fix; columns that refer to nothing
-- stay silent, and one that holds nothing yet is a notice.
-- probe
-- the fix brings fk/enforcement-off on sqlite: there was nothing to enforce before
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, name varchar(20));
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL,                     -- want: fk/missing "refers to station .id. in all of 30 rows, and no foreign key says so", fk/one-to-one (no fix)
  position integer, station_count integer, floors integer
);
CREATE TABLE plan (
  id integer NOT NULL PRIMARY KEY,
  station_id integer                               -- want: fk/missing "named as if it referred to station" (no fix)
);
INSERT INTO station VALUES (1, 'n'), (2, 'n'), (3, 'n'), (4, 'n'), (5, 'n'), (6, 'n'), (7, 'n'), (8, 'n'), (9, 'n'), (10, 'n'), (11, 'n'), (12, 'n'), (13, 'n'), (14, 'n'), (15, 'n'), (16, 'n'), (17, 'n'), (18, 'n'), (19, 'n'), (20, 'n'), (21, 'n'), (22, 'n'), (23, 'n'), (24, 'n'), (25, 'n'), (26, 'n'), (27, 'n'), (28, 'n'), (29, 'n'), (30, 'n'), (31, 'n'), (32, 'n'), (33, 'n'), (34, 'n'), (35, 'n'), (36, 'n'), (37, 'n'), (38, 'n'), (39, 'n'), (40, 'n');
INSERT INTO visit VALUES (1, 6, 1, 2, 1), (2, 7, 2, 3, 2), (3, 8, 3, 4, 0), (4, 9, 4, 5, 1), (5, 10, 5, 6, 2), (6, 11, 6, 7, 0), (7, 12, 7, 8, 1), (8, 13, 8, 9, 2), (9, 14, 9, 1, 0), (10, 15, 10, 2, 1), (11, 16, 11, 3, 2), (12, 17, 12, 4, 0), (13, 18, 13, 5, 1), (14, 19, 14, 6, 2), (15, 20, 15, 7, 0), (16, 21, 16, 8, 1), (17, 22, 17, 9, 2), (18, 23, 18, 1, 0), (19, 24, 19, 2, 1), (20, 25, 20, 3, 2), (21, 26, 21, 4, 0), (22, 27, 22, 5, 1), (23, 28, 23, 6, 2), (24, 29, 24, 7, 0), (25, 30, 25, 8, 1), (26, 31, 26, 9, 2), (27, 32, 27, 1, 0), (28, 33, 28, 2, 1), (29, 34, 29, 3, 2), (30, 35, 30, 4, 0);
