-- A unique index around a key, one around a key that may be null, one that is referred to, one of some rows.
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(8) NOT NULL UNIQUE, region varchar(8) NOT NULL, nick varchar(8) UNIQUE);
CREATE UNIQUE INDEX station_region_code ON station (region, code); -- want: key/repeated "the unique key .code. is among its columns" (notice)
CREATE UNIQUE INDEX station_nick ON station (region, nick);
CREATE UNIQUE INDEX station_some ON station (id, region) WHERE region > 'b';
CREATE UNIQUE INDEX station_both ON station (id, nick);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, station_nick varchar(8) NOT NULL, FOREIGN KEY (station_id, station_nick) REFERENCES station (id, nick));
CREATE INDEX gauge_station ON gauge (station_id, station_nick);
