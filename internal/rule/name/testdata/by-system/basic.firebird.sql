-- set name/by-system unique uq_{table}_{columns}
-- set name/by-system primary-key pk_{table}
CREATE TABLE station (
  id integer NOT NULL CONSTRAINT pk_station PRIMARY KEY,
  code varchar(9) NOT NULL CONSTRAINT uq_station_code UNIQUE
);
CREATE TABLE keeper (
  id integer NOT NULL PRIMARY KEY
);
