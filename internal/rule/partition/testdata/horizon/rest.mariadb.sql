-- not mysql: the stand-in keeps no partitions
-- Months cut off from the part that takes the rest, with rows in it.
-- the fix ends partition/default-filled on mariadb: the rows that it held are in the new ones, and the engine counts the rest when it is analyzed
CREATE TABLE reading (id integer NOT NULL, at datetime NOT NULL, PRIMARY KEY (id, at)) -- want: partition/horizon
PARTITION BY RANGE COLUMNS (at) (PARTITION p202607 VALUES LESS THAN ('2026-08-01 00:00:00'), PARTITION p202608 VALUES LESS THAN ('2026-09-01 00:00:00'),
PARTITION p202609 VALUES LESS THAN ('2026-10-01 00:00:00'),
PARTITION rest VALUES LESS THAN (MAXVALUE)); -- want: partition/default-filled (no fix)
INSERT INTO reading VALUES (1, '2026-07-01'), (2, '2026-11-03'), (3, '2030-01-01');
CREATE TABLE yearly (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) -- want: partition/horizon
PARTITION BY RANGE (year(at)) (PARTITION y2024 VALUES LESS THAN (2025), PARTITION y2025 VALUES LESS THAN (2026), PARTITION y2026 VALUES LESS THAN (2027));
