-- The same key twice, and one that holds another; one that a reference needs.
CREATE TABLE station (
  id NUMBER(10) NOT NULL PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL, name VARCHAR2(20 CHAR) NOT NULL,
  CONSTRAINT station_code UNIQUE (code),
  CONSTRAINT station_code_name UNIQUE (code, name),  -- want: key/repeated
  CONSTRAINT station_id_code UNIQUE (id, code)
);
CREATE TABLE visit (
  id NUMBER(10) NOT NULL PRIMARY KEY, station_id NUMBER(10) NOT NULL, station_code VARCHAR2(8 CHAR) NOT NULL,
  CONSTRAINT visit_station FOREIGN KEY (station_id, station_code) REFERENCES station (id, code)
);
CREATE INDEX visit_by_station ON visit (station_id, station_code);
-- Nulls let the narrow one be broken: the wide one says something.
CREATE TABLE keeper (id NUMBER(10) NOT NULL PRIMARY KEY, badge VARCHAR2(8 CHAR), town VARCHAR2(20 CHAR), CONSTRAINT keeper_badge UNIQUE (badge), CONSTRAINT keeper_badge_town UNIQUE (badge, town));
