-- By the engine's own counters: most rows replaced, a few replaced, none.
-- set storage/dead-rows rows 1000
CREATE TABLE reading (id int PRIMARY KEY, level_mm int) WITH (autovacuum_enabled = false); -- want: storage/dead-rows "are dead and still take up space"
CREATE TABLE level (id int PRIMARY KEY, level_mm int) WITH (autovacuum_enabled = false);
CREATE TABLE gauge (id int PRIMARY KEY, level_mm int) WITH (autovacuum_enabled = false);
INSERT INTO reading SELECT n, n FROM generate_series(1, 4000) n;
INSERT INTO level SELECT n, n FROM generate_series(1, 4000) n;
INSERT INTO gauge SELECT n, n FROM generate_series(1, 4000) n;
ANALYZE reading, level, gauge;
UPDATE reading SET level_mm = level_mm + 1;
UPDATE level SET level_mm = level_mm + 1 WHERE id < 300;
SELECT pg_stat_force_next_flush();
-- from postgres 15
