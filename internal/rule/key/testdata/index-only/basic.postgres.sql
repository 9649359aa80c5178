CREATE TABLE station (id bigint PRIMARY KEY, code text NOT NULL, name text NOT NULL, mark text);
CREATE UNIQUE INDEX station_code ON station (code); -- want: key/index-only
CREATE UNIQUE INDEX station_name ON station (lower(name));
CREATE UNIQUE INDEX station_mark ON station (mark) WHERE mark <> '';
INSERT INTO station VALUES (1, 'a', 'A', NULL), (2, 'b', 'B', 'x');
