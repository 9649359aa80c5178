CREATE TABLE station (id int IDENTITY PRIMARY KEY);
CREATE TABLE keeper (id int IDENTITY PRIMARY KEY);
CREATE TABLE station_keeper (id int IDENTITY PRIMARY KEY,  -- want: key/pair-not-unique "station and keeper"
  station_id int NOT NULL REFERENCES station (id), keeper_id int NOT NULL REFERENCES keeper (id), created_at datetime2(0) NOT NULL DEFAULT (sysdatetime()));
CREATE INDEX station_keeper_1 ON station_keeper (station_id);
CREATE INDEX station_keeper_2 ON station_keeper (keeper_id);
CREATE TABLE fine (id int IDENTITY PRIMARY KEY, station_id int NOT NULL REFERENCES station (id), keeper_id int NOT NULL REFERENCES keeper (id), CONSTRAINT fine_pair UNIQUE (station_id, keeper_id));
CREATE INDEX fine_2 ON fine (keeper_id);
SET IDENTITY_INSERT station ON; INSERT INTO station (id) VALUES (1), (2); SET IDENTITY_INSERT station OFF;
SET IDENTITY_INSERT keeper ON; INSERT INTO keeper (id) VALUES (1); SET IDENTITY_INSERT keeper OFF;
INSERT INTO station_keeper (station_id, keeper_id) VALUES (1, 1), (2, 1);
