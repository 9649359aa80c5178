-- set sort/none rows 500
-- choose sort/none sort
-- The table is copied, with its keys, those that refer to it, descriptions, defaults and fields.
CREATE TABLE saltmere.station (id INT64 NOT NULL, PRIMARY KEY (id) NOT ENFORCED);
CREATE TABLE saltmere.reading ( -- want: sort/none "reads them all"
  id INT64 NOT NULL OPTIONS (description='numbered by the gauge\'s own clock'),
  station_id INT64 NOT NULL,
  taken_at TIMESTAMP NOT NULL,
  quality INT64 DEFAULT 0,
  place STRUCT<lat FLOAT64 OPTIONS (description='degrees "north"'), lon FLOAT64>,
  marks ARRAY<STRUCT<name STRING OPTIONS (description='as it is written on the staff'), height INT64>>,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT reading_station_fkey FOREIGN KEY (station_id) REFERENCES saltmere.station (id) NOT ENFORCED)
PARTITION BY TIMESTAMP_TRUNC(taken_at, DAY)
OPTIONS (description='Levels', labels=[('team', 'tides')], partition_expiration_days=900, require_partition_filter=true);
CREATE TABLE saltmere.reading_flag (reading_id INT64 NOT NULL, flag STRING NOT NULL, PRIMARY KEY (reading_id, flag) NOT ENFORCED, CONSTRAINT flag_reading_fkey FOREIGN KEY (reading_id) REFERENCES saltmere.reading (id) NOT ENFORCED);
CREATE TABLE saltmere.digit (d INT64 NOT NULL, PRIMARY KEY (d) NOT ENFORCED);
INSERT INTO saltmere.digit (d) VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
INSERT INTO saltmere.station (id) SELECT d FROM saltmere.digit;
INSERT INTO saltmere.reading (id, station_id, taken_at, place, marks) SELECT a.d + 10 * b.d + 100 * c.d, a.d, '2026-03-01 10:00:00', STRUCT(54.5 AS lat, 7.25 AS lon), [STRUCT('bolt' AS name, 3 AS height)] FROM saltmere.digit a, saltmere.digit b, saltmere.digit c;
INSERT INTO saltmere.reading_flag (reading_id, flag) VALUES (1, 'spike');
