-- not mysql: the stand-in keeps no partitions
-- no example: what the fix writes depends on the day
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) -- want: partition/horizon
PARTITION BY RANGE (to_days(at)) (PARTITION p2024 VALUES LESS THAN (to_days('2025-01-01')), PARTITION p2025 VALUES LESS THAN (to_days('2026-01-01')));
CREATE TABLE ahead (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at))
PARTITION BY RANGE COLUMNS (at) (PARTITION p1 VALUES LESS THAN ('2090-01-01'), PARTITION p2 VALUES LESS THAN ('2091-01-01'));
