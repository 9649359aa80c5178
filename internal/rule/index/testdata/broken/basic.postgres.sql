CREATE TABLE station (id integer PRIMARY KEY, code text NOT NULL);
INSERT INTO station VALUES (1, 'a'), (2, 'a');
CREATE INDEX station_code ON station (code);
-- want nothing of a good one; the next is made as a broken-off build leaves it
CREATE INDEX station_low ON station (lower(code)); -- want: index/broken
UPDATE pg_index SET indisvalid = false WHERE indexrelid = 'station_low'::regclass;
