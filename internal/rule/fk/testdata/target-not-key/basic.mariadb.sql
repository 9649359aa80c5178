-- not mysql: the stand-in does not say which key a reference stands on
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(8) NOT NULL, KEY by_code (code));
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station_code varchar(8), station_id integer,
  CONSTRAINT visit_code FOREIGN KEY (station_code) REFERENCES station (code), -- want: fk/target-not-key
  CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id)
);
