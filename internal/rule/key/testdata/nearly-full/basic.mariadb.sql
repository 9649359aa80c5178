-- not mysql: the stand-in breaks on a column that is altered under LOCK TABLES
CREATE TABLE station (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(9) NOT NULL UNIQUE); -- want: key/nearly-full
INSERT INTO station VALUES (2000000000, 'a');
CREATE TABLE gauge (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, station_id integer NOT NULL, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
INSERT INTO gauge VALUES (7, 2000000000);
ANALYZE TABLE station, gauge;
