-- The file cannot tell; the rows can.
CREATE TABLE station (id INTEGER PRIMARY KEY);
CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id INTEGER REFERENCES station (id));
CREATE INDEX gauge_station ON gauge (station_id);
-- want-database: fk/enforcement-off "each connection must ask for the 1 foreign key"
