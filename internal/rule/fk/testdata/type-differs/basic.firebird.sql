-- What is not of one type cannot refer at all; a length may be another.
CREATE TABLE station (code varchar(12) NOT NULL PRIMARY KEY, height integer);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY,
  station_code varchar(8) NOT NULL REFERENCES station (code), -- want: fk/type-differs
  other_code varchar(12) REFERENCES station (code));
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, station_code varchar(12) CHARACTER SET UTF8 REFERENCES station (code));
INSERT INTO station VALUES ('a', 1);
INSERT INTO gauge VALUES (1, 'a', NULL);
