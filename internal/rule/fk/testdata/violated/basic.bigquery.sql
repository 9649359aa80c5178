-- probe
CREATE TABLE saltmere.station (id INT64 NOT NULL, PRIMARY KEY (id) NOT ENFORCED);
CREATE TABLE saltmere.gauge (id INT64 NOT NULL, station_id INT64, PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT gauge_station_fkey FOREIGN KEY (station_id) REFERENCES saltmere.station (id) NOT ENFORCED); -- want: fk/violated "1 of 3 rows" (no fix)
INSERT INTO saltmere.station (id) VALUES (1), (2);
INSERT INTO saltmere.gauge (id, station_id) VALUES (1, 1), (2, 2), (3, 7), (4, NULL);
