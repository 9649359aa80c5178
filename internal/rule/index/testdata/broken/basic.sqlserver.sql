CREATE TABLE station (id integer PRIMARY KEY, code varchar(8) NOT NULL);
INSERT INTO station VALUES (1, 'a'), (2, 'b');
CREATE INDEX station_code ON station (code);
CREATE INDEX station_code_id ON station (id DESC, code); -- want: index/broken
ALTER INDEX station_code_id ON station DISABLE;
CREATE TABLE tide (id integer PRIMARY KEY, code varchar(8), level integer);
CREATE UNIQUE INDEX tide_code ON tide (code) WHERE [level]>(0); -- want: index/broken
ALTER INDEX tide_code ON tide DISABLE;
