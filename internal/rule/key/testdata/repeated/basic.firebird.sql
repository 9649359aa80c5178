CREATE TABLE station (id integer NOT NULL, code varchar(9) NOT NULL, title varchar(9) NOT NULL, CONSTRAINT pk_station PRIMARY KEY (id),
  CONSTRAINT uq_code UNIQUE (code),
  CONSTRAINT uq_both UNIQUE (code, title)); -- want: key/repeated
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, code varchar(9) REFERENCES station (code));
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id), note varchar(9) NOT NULL,
  UNIQUE (id, note)); -- want: key/repeated
