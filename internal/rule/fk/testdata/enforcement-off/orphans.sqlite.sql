CREATE TABLE station (id INTEGER PRIMARY KEY);
CREATE TABLE gauge (id INTEGER PRIMARY KEY, station_id INTEGER REFERENCES station (id));
CREATE INDEX gauge_station ON gauge (station_id);
INSERT INTO gauge VALUES (1, 5), (2, 6), (3, NULL);
-- want-database: fk/enforcement-off "there is no parent for 2 rows of gauge"
