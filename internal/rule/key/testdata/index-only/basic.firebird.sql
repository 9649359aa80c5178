CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL, height integer);
INSERT INTO station VALUES (1, 'a', 5);
CREATE UNIQUE INDEX station_code ON station (code); -- want: key/index-only
CREATE UNIQUE INDEX station_upper ON station COMPUTED BY (UPPER(code));
