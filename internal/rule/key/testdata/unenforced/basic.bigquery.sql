-- One finding for the whole project, as long as nobody asked the data.
CREATE TABLE saltmere.station (id INT64 NOT NULL, PRIMARY KEY (id) NOT ENFORCED);
CREATE TABLE saltmere.gauge (id INT64 NOT NULL, station_id INT64, PRIMARY KEY (id) NOT ENFORCED, CONSTRAINT gauge_station_fkey FOREIGN KEY (station_id) REFERENCES saltmere.station (id) NOT ENFORCED);
-- want-database: key/unenforced "2 keys and 1 foreign key are declared and not enforced" (no fix) (notice)
