CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL);
INSERT INTO station VALUES (1, 'a');
CREATE INDEX station_code ON station (code); -- want: index/broken
ALTER INDEX station_code INACTIVE;
CREATE DESCENDING INDEX station_down ON station (code);
CREATE UNIQUE INDEX station_upper ON station COMPUTED BY (UPPER(code)); -- want: index/broken
ALTER INDEX station_upper INACTIVE;
