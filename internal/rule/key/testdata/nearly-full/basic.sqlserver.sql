CREATE TABLE station (id integer IDENTITY(2000000000,1) CONSTRAINT pk_station PRIMARY KEY, code varchar(9) NOT NULL CONSTRAINT uq_station UNIQUE); -- want: key/nearly-full
INSERT INTO station (code) VALUES ('a'), ('b');
CREATE TABLE gauge (id integer IDENTITY PRIMARY KEY, station_id integer NOT NULL, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, CONSTRAINT gauge_real CHECK ([station_id]>(0)));
CREATE INDEX gauge_by_station ON gauge (station_id);
INSERT INTO gauge (station_id) VALUES (2000000001);
