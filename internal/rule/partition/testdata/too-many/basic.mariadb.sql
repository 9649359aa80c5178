-- not mysql: the stand-in keeps no partitions
-- set partition/too-many partitions 8
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY) PARTITION BY HASH (id) PARTITIONS 9; -- want: partition/too-many (no fix)
CREATE TABLE mark (id integer NOT NULL PRIMARY KEY) PARTITION BY HASH (id) PARTITIONS 8;
