-- set partition/too-many partitions 3
CREATE PARTITION FUNCTION pf_reading (int) AS RANGE LEFT FOR VALUES (1000, 2000, 3000);
CREATE PARTITION SCHEME ps_reading AS PARTITION pf_reading ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, CONSTRAINT pk_reading PRIMARY KEY (id)) ON ps_reading(id); -- want: partition/too-many (no fix)
