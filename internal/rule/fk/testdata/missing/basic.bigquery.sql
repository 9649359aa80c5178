-- probe
-- accept all
-- What refers to a primary key can be declared; what refers to another column, or from a field of a STRUCT, cannot.
CREATE TABLE saltmere.station (id INT64 NOT NULL, code STRING NOT NULL, PRIMARY KEY (id) NOT ENFORCED);
INSERT INTO saltmere.station (id, code) VALUES (11, 'A1'), (12, 'A2'), (13, 'A3'), (14, 'A4'), (15, 'A5'), (16, 'A6'), (17, 'A7'), (18, 'A8'), (19, 'A9'), (20, 'B1');
CREATE TABLE saltmere.gauge (
  id INT64 NOT NULL,
  station_id INT64 NOT NULL, -- want: fk/missing
  seen STRUCT<station_id INT64, note STRING>, /* seen.station_id */ -- want: fk/missing "seen.station_id" (no fix)
  PRIMARY KEY (id) NOT ENFORCED);
INSERT INTO saltmere.gauge (id, station_id, seen) VALUES (1, 11, STRUCT(12 AS station_id, 'x' AS note)), (2, 12, STRUCT(13 AS station_id, 'x' AS note)), (3, 13, STRUCT(14 AS station_id, 'y' AS note)), (4, 14, STRUCT(15 AS station_id, 'x' AS note)), (5, 14, STRUCT(16 AS station_id, 'x' AS note)), (6, 15, STRUCT(16 AS station_id, 'x' AS note)), (7, 20, STRUCT(11 AS station_id, 'z' AS note));
