-- The engine indexes every foreign key by itself, and keeps that index as long as nothing else serves.
CREATE TABLE station (id int PRIMARY KEY, part int NOT NULL, UNIQUE (id, part));
CREATE TABLE gauge (id int PRIMARY KEY, station_id int REFERENCES station (id), part_id int, part_no int NOT NULL, FOREIGN KEY (part_id, part_no) REFERENCES station (id, part));
CREATE TABLE visit (id int PRIMARY KEY, station_id int, day int, CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id), KEY visit_day (station_id, day));
