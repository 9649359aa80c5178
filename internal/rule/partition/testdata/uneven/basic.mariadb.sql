-- not mysql: the stand-in keeps no partitions
SET max_recursive_iterations = 100000;
CREATE TABLE reading (id integer NOT NULL, at integer NOT NULL, PRIMARY KEY (id, at)) -- want: partition/uneven (no fix)
PARTITION BY RANGE (at) (PARTITION a VALUES LESS THAN (1000), PARTITION b VALUES LESS THAN (2000), PARTITION c VALUES LESS THAN (3000), PARTITION d VALUES LESS THAN (30000));
INSERT INTO reading WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) SELECT i, i FROM n;
ANALYZE TABLE reading;
