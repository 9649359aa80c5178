CREATE TABLE station (id integer PRIMARY KEY, code text NOT NULL);
INSERT INTO station VALUES (1, 'a'), (2, 'a');
CREATE INDEX station_code ON station (code);
-- want nothing of a good one; the next is made as a broken-off build leaves it
CREATE INDEX station_low ON station (lower(code)); -- want: index/broken
UPDATE pg_index SET indisvalid = false WHERE indexrelid = 'station_low'::regclass;
-- what a broken-off REINDEX CONCURRENTLY leaves goes, and is not built once more
CREATE TABLE gauge (id integer PRIMARY KEY, code text NOT NULL);
CREATE INDEX gauge_code ON gauge (code);
CREATE INDEX gauge_code_ccnew ON gauge (code); -- want: index/broken
CREATE INDEX gauge_upper ON gauge (upper(code)); -- want: index/broken
CREATE INDEX gauge_upper_ccnew ON gauge (upper(code)); -- want: index/broken
UPDATE pg_index SET indisvalid = false WHERE indexrelid IN ('gauge_code_ccnew'::regclass, 'gauge_upper'::regclass, 'gauge_upper_ccnew'::regclass);
-- a unique one is asked for what it would refuse, expression and predicate included
CREATE TABLE tide (id integer PRIMARY KEY, code text, level integer);
CREATE UNIQUE INDEX tide_lower ON tide (lower(code)) WHERE level > 0; -- want: index/broken
UPDATE pg_index SET indisvalid = false WHERE indexrelid = 'tide_lower'::regclass;
