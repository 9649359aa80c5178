-- The engine refuses SET NULL on a required column when it is declared, but not what is made of it later.
CREATE TABLE station (id int PRIMARY KEY);
CREATE TABLE gauge (id int PRIMARY KEY, station_id int, CONSTRAINT f FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL);
CREATE TABLE visit (id int PRIMARY KEY, station_id int NOT NULL, CONSTRAINT g FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE);
