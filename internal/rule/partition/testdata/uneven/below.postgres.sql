-- Rows count where they are, below parts that are partitioned again.
-- the fix ends partition/uneven on postgres: the new part is not counted yet
CREATE TABLE reading (id integer NOT NULL, at integer NOT NULL, gauge integer NOT NULL, PRIMARY KEY (id, at, gauge)) PARTITION BY RANGE (at); -- want: partition/uneven "reading_4" (no fix)
CREATE TABLE reading_1 PARTITION OF reading FOR VALUES FROM (0) TO (1000);
CREATE TABLE reading_2 PARTITION OF reading FOR VALUES FROM (1000) TO (2000);
CREATE TABLE reading_3 PARTITION OF reading FOR VALUES FROM (2000) TO (3000);
CREATE TABLE reading_4 PARTITION OF reading FOR VALUES FROM (3000) TO (30000) PARTITION BY LIST (gauge);
CREATE TABLE reading_4_a PARTITION OF reading_4 FOR VALUES IN (0);
CREATE TABLE reading_4_b PARTITION OF reading_4 FOR VALUES IN (1);
INSERT INTO reading SELECT i, i, i % 2 FROM generate_series(1, 20000) i;
ANALYZE reading_1, reading_2, reading_3, reading_4_a, reading_4_b;
