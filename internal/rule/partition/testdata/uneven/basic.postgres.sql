CREATE TABLE reading (id integer NOT NULL, at integer NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at); -- want: partition/uneven "reading_4" (no fix)
CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM (0) TO (1000);
CREATE TABLE reading_2 PARTITION OF reading FOR VALUES FROM (1000) TO (2000);
CREATE TABLE reading_3 PARTITION OF reading FOR VALUES FROM (2000) TO (3000);
CREATE TABLE reading_4 PARTITION OF reading FOR VALUES FROM (3000) TO (30000);
INSERT INTO reading SELECT i, i FROM generate_series(1, 20000) i;
ANALYZE reading;
