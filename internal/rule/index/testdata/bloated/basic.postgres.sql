CREATE TABLE reading (id integer PRIMARY KEY, level integer NOT NULL) WITH (autovacuum_enabled = off);
INSERT INTO reading SELECT i, (i * 7919::bigint) % 600000 FROM generate_series(1, 600000) i;
CREATE INDEX reading_level ON reading (level); -- want: index/bloated
DELETE FROM reading WHERE id % 3 <> 0;
VACUUM ANALYZE reading;
REINDEX INDEX reading_pkey;
