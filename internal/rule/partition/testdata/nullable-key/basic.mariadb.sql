-- not mysql: the stand-in keeps no partitions
CREATE TABLE reading (id integer NOT NULL, -- want: key/none (no fix)
  at date, -- want: partition/nullable-key
  level integer)
  PARTITION BY RANGE (TO_DAYS(at)) (PARTITION p2090 VALUES LESS THAN (TO_DAYS('2091-01-01')), PARTITION rest VALUES LESS THAN MAXVALUE);
CREATE TABLE mark (id integer NOT NULL, at date NOT NULL, level integer, PRIMARY KEY (id, at))
  PARTITION BY RANGE (YEAR(at)) SUBPARTITION BY HASH (id) SUBPARTITIONS 2 (PARTITION p2090 VALUES LESS THAN (2091), PARTITION rest VALUES LESS THAN MAXVALUE);
INSERT INTO reading VALUES (1, '2090-05-01', 1);
