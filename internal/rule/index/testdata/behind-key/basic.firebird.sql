CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL UNIQUE, title varchar(9) NOT NULL, CONSTRAINT uq_title UNIQUE (title) USING DESCENDING INDEX ux_title);
CREATE INDEX station_1 ON station (id); -- want: index/behind-key
CREATE UNIQUE INDEX station_2 ON station (code); -- want: index/behind-key
CREATE INDEX station_3 ON station (title);
CREATE DESCENDING INDEX station_4 ON station (title); -- want: index/behind-key
