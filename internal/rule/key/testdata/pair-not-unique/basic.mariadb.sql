-- not mysql: the stand-in sees one index behind a foreign key
CREATE TABLE station (id int AUTO_INCREMENT PRIMARY KEY);
CREATE TABLE keeper (id int AUTO_INCREMENT PRIMARY KEY);
CREATE TABLE station_keeper (id int AUTO_INCREMENT PRIMARY KEY,  -- want: key/pair-not-unique "station and keeper"
  station_id int NOT NULL, keeper_id int NOT NULL, created_at datetime NOT NULL DEFAULT current_timestamp,
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
CREATE TABLE fine (id int AUTO_INCREMENT PRIMARY KEY, station_id int NOT NULL, keeper_id int NOT NULL, UNIQUE (station_id, keeper_id),
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
CREATE TABLE visit (id int AUTO_INCREMENT PRIMARY KEY, station_id int NOT NULL, keeper_id int NOT NULL, visited_on date NOT NULL,
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
-- Its index was made by CREATE INDEX; the new key takes its place, and the reversal puts it back.
CREATE TABLE membership (id int AUTO_INCREMENT PRIMARY KEY,  -- want: key/pair-not-unique
  station_id int NOT NULL, keeper_id int NOT NULL, KEY by_station (station_id),
  CONSTRAINT m1 FOREIGN KEY (station_id) REFERENCES station (id), CONSTRAINT m2 FOREIGN KEY (keeper_id) REFERENCES keeper (id));
INSERT INTO station VALUES (1), (2); INSERT INTO keeper VALUES (1);
INSERT INTO station_keeper (station_id, keeper_id) VALUES (1, 1), (2, 1);
INSERT INTO membership (station_id, keeper_id) VALUES (1, 1), (2, 1);
