-- A unique index around a key, and one around a key that may be null.
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL UNIQUE, region VARCHAR2(8 CHAR) NOT NULL, nick VARCHAR2(8 CHAR) UNIQUE);
CREATE UNIQUE INDEX station_region_code ON station (region, code); -- want: key/repeated "the unique key .code. is among its columns" (notice)
CREATE UNIQUE INDEX station_nick ON station (region, nick);
