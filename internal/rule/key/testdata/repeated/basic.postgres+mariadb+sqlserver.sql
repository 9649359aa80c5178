-- not mysql: the stand-in breaks on the fix
-- The same key twice, and one that holds another; one that a reference needs.
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY, code varchar(8) NOT NULL, name varchar(20) NOT NULL,
  CONSTRAINT station_code UNIQUE (code),
  CONSTRAINT station_code_name UNIQUE (code, name),  -- want: key/repeated
  CONSTRAINT station_id_code UNIQUE (id, code)
);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, station_code varchar(8) NOT NULL,
  CONSTRAINT visit_station FOREIGN KEY (station_id, station_code) REFERENCES station (id, code)
);
CREATE INDEX visit_by_station ON visit (station_id, station_code);
-- Nulls let the narrow one be broken: the wide one says something.
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY, badge varchar(8), town varchar(20), CONSTRAINT keeper_badge UNIQUE (badge), CONSTRAINT keeper_badge_town UNIQUE (badge, town));
-- from postgres 15
