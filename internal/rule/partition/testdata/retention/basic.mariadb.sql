-- not mysql: the stand-in keeps no partitions
-- set partition/retention keep 24 months
-- Partitions are no tables here: what is old is told, and taken out by hand.
CREATE TABLE reading (id int NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) -- want: partition/retention "2 partitions ended more than 24 months ago" (no fix)
  PARTITION BY RANGE COLUMNS (at) (PARTITION p2018 VALUES LESS THAN ('2019-01-01'), PARTITION p2019 VALUES LESS THAN ('2020-01-01'), PARTITION p2094 VALUES LESS THAN ('2095-01-01'), PARTITION pmax VALUES LESS THAN MAXVALUE);
