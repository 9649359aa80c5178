-- set partition/retention keep 24 months
-- Partitions are no tables here: what is old is told, and taken out by hand.
CREATE TABLE reading (id NUMBER(10) NOT NULL, at DATE NOT NULL, CONSTRAINT reading_pk PRIMARY KEY (id, at)) -- want: partition/retention (no fix)
  PARTITION BY RANGE (at) (PARTITION p2018 VALUES LESS THAN (DATE '2019-01-01'), PARTITION p2019 VALUES LESS THAN (DATE '2020-01-01'), PARTITION p2094 VALUES LESS THAN (DATE '2095-01-01'), PARTITION pmax VALUES LESS THAN (MAXVALUE));
