-- not mysql: the stand-in keeps no partitions
CREATE TABLE reading (id integer NOT NULL, kind integer NOT NULL, PRIMARY KEY (id, kind)) -- want: partition/no-default
PARTITION BY LIST (kind) (PARTITION a VALUES IN (1), PARTITION b VALUES IN (2));
CREATE TABLE sound (id integer NOT NULL, kind integer NOT NULL, PRIMARY KEY (id, kind))
PARTITION BY RANGE (kind) (PARTITION a VALUES LESS THAN (10), PARTITION b VALUES LESS THAN MAXVALUE);
