-- want-database: key/unenforced
-- A key and a foreign key that nothing keeps.
CREATE TABLE station (id integer ENCODE az64 NOT NULL, CONSTRAINT station_pkey PRIMARY KEY (id)) DISTSTYLE ALL;
CREATE TABLE gauge (id integer ENCODE az64 NOT NULL, station_id integer ENCODE az64 NOT NULL, CONSTRAINT gauge_pkey PRIMARY KEY (id), CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id)) DISTSTYLE ALL;
