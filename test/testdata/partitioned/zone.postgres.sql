-- Days begin where the database's clocks are, summer time included.
-- script: saltmere.level --empty-rest --ahead 2
-- holds: FOR VALUES FROM \('2026-11-01 00:00:00\+13'\) TO \('2026-12-01 00:00:00\+13'\)
-- as : INSERT INTO saltmere.level VALUES ('2026-11-02', 3)
CREATE SCHEMA saltmere;
DO $$ BEGIN EXECUTE format('ALTER DATABASE %I SET timezone = ''Pacific/Auckland''', current_database()); END $$;
SET timezone = 'Pacific/Auckland';
CREATE TABLE saltmere.level (at timestamptz NOT NULL, l int) PARTITION BY RANGE (at);
CREATE TABLE saltmere.level_2026_08 PARTITION OF saltmere.level FOR VALUES FROM ('2026-08-01') TO ('2026-09-01');
CREATE TABLE saltmere.level_2026_09 PARTITION OF saltmere.level FOR VALUES FROM ('2026-09-01') TO ('2026-10-01');
CREATE TABLE saltmere.level_2026_10 PARTITION OF saltmere.level FOR VALUES FROM ('2026-10-01') TO ('2026-11-01');
CREATE TABLE saltmere.level_rest PARTITION OF saltmere.level DEFAULT;
INSERT INTO saltmere.level SELECT '2026-10-31'::timestamptz + g * interval '1 hour', g FROM generate_series(1, 300) g;
