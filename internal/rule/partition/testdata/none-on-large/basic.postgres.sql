-- set partition/none-on-large rows 500
CREATE TABLE reading (id integer PRIMARY KEY, at timestamptz NOT NULL); -- want: partition/none-on-large (no fix)
INSERT INTO reading SELECT i, now() FROM generate_series(1, 600) i;
CREATE TABLE plain (id integer PRIMARY KEY, n integer);
INSERT INTO plain SELECT i, i FROM generate_series(1, 600) i;
ANALYZE;
