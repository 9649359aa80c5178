-- want nothing: the engine has only begun to count
CREATE TABLE station (id integer PRIMARY KEY, code text NOT NULL);
CREATE INDEX station_code ON station (code);
INSERT INTO station VALUES (1, 'a');
ANALYZE station;
