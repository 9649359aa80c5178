-- probe
-- accept all
-- the fix brings fk/enforcement-off on sqlite: there was nothing to enforce before
-- the fix brings key/generated-only on sqlite: nothing referred to it before
-- not mysql: the stand-in is asked less
-- A default that stands for no row, which the foreign key would refuse; one that is a row may stay.
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, name varchar(20) NOT NULL);
CREATE TABLE gauge (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL DEFAULT 0 -- want: fk/missing (no fix)
);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL DEFAULT 11 -- want: fk/missing
);
CREATE INDEX visit_station ON visit (station_id);
INSERT INTO station VALUES (11, 'a'), (12, 'b'), (13, 'c'), (14, 'd'), (15, 'e'), (16, 'f'), (17, 'g'), (18, 'h'), (19, 'i'), (20, 'j');
INSERT INTO gauge VALUES (1, 11), (2, 12), (3, 13), (4, 14), (5, 15), (6, 16), (7, 17), (8, 18), (9, 19), (10, 20), (11, 11), (12, 12), (13, 13), (14, 14);
INSERT INTO visit VALUES (1, 11), (2, 12), (3, 13), (4, 14), (5, 15), (6, 16), (7, 17), (8, 18), (9, 19), (10, 20), (11, 11), (12, 12), (13, 13), (14, 14);
