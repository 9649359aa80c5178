CREATE TABLE station (id int AUTO_INCREMENT PRIMARY KEY);
CREATE TABLE keeper (id int AUTO_INCREMENT PRIMARY KEY);
CREATE TABLE station_keeper (id int AUTO_INCREMENT PRIMARY KEY,  -- want: key/pair-not-unique "station and keeper"
  station_id int NOT NULL, keeper_id int NOT NULL, created_at datetime NOT NULL DEFAULT current_timestamp,
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
CREATE TABLE fine (id int AUTO_INCREMENT PRIMARY KEY, station_id int NOT NULL, keeper_id int NOT NULL, UNIQUE (station_id, keeper_id),
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
CREATE TABLE visit (id int AUTO_INCREMENT PRIMARY KEY, station_id int NOT NULL, keeper_id int NOT NULL, visited_on date NOT NULL,
  FOREIGN KEY (station_id) REFERENCES station (id), FOREIGN KEY (keeper_id) REFERENCES keeper (id));
