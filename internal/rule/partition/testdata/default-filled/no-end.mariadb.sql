-- not mysql: the stand-in keeps no partitions
-- Rows in the partition without an end: behind years they lie where no search expects them, behind
-- other ranges it is one like the rest.
CREATE TABLE reading (id int NOT NULL, taken int NOT NULL, PRIMARY KEY (id, taken))
  PARTITION BY RANGE (taken) (PARTITION p2096 VALUES LESS THAN (2097), PARTITION p2097 VALUES LESS THAN (2098), PARTITION p2098 VALUES LESS THAN (2099), PARTITION pmax VALUES LESS THAN MAXVALUE); -- want: partition/default-filled (no fix)
CREATE TABLE station (id int NOT NULL PRIMARY KEY)
  PARTITION BY RANGE (id) (PARTITION low VALUES LESS THAN (1000), PARTITION high VALUES LESS THAN MAXVALUE);
INSERT INTO reading VALUES (1, 2096), (2, 2099), (3, 2100);
INSERT INTO station VALUES (1), (2000);
ANALYZE TABLE reading, station;
