-- add foreign key gauge_station_id_fkey to saltmere.gauge
ALTER TABLE saltmere.gauge ADD CONSTRAINT gauge_station_id_fkey FOREIGN KEY (station_id) REFERENCES saltmere.station (id) NOT ENFORCED;
