CREATE TABLE reading (id integer NOT NULL, day date NOT NULL, PRIMARY KEY (id, day)) PARTITION BY RANGE (day);
CREATE TABLE reading_25 PARTITION OF reading FOR VALUES FROM ('2025-01-01') TO ('2026-01-01');
CREATE TABLE reading_rest PARTITION OF reading DEFAULT;
CREATE TABLE level (id integer NOT NULL, day date NOT NULL, PRIMARY KEY (id, day)) PARTITION BY RANGE (day);
CREATE TABLE level_rest PARTITION OF level DEFAULT;
INSERT INTO reading VALUES (1, '2025-05-05'), (2, '2026-05-05');
ANALYZE reading_rest; ANALYZE level_rest; ANALYZE reading_25;
CREATE INDEX reading_rest_day ON reading (day);
ALTER TABLE reading ALTER day SET NOT NULL; -- (reading_rest) -- want: partition/default-filled "its default partition reading_rest holds 1 row" (no fix)
