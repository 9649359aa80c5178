-- create index day_station_key on main.day
CREATE UNIQUE INDEX day_station_key ON day (station);

-- create index station_code_key on main.station
CREATE UNIQUE INDEX station_code_key ON station (code);
