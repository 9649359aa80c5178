-- A partitioned table is judged as a whole; the index is built share by share.
CREATE SCHEMA "tide data";
CREATE TABLE "tide data".gauge (id bigint PRIMARY KEY);
CREATE TABLE "tide data".reading (
  gauge_id bigint NOT NULL REFERENCES "tide data".gauge (id),  -- want: fk/not-indexed
  taken_at timestamptz NOT NULL,
  level integer,
  PRIMARY KEY (taken_at, gauge_id)
) PARTITION BY RANGE (taken_at);
CREATE TABLE "tide data".reading_2025 PARTITION OF "tide data".reading FOR VALUES FROM ('2025-01-01 00:00+00') TO ('2026-01-01 00:00+00');
CREATE TABLE "tide data".reading_2026 PARTITION OF "tide data".reading FOR VALUES FROM ('2026-01-01 00:00+00') TO ('2095-01-01 00:00+00') PARTITION BY HASH (gauge_id);
CREATE TABLE "tide data".reading_2026_0 PARTITION OF "tide data".reading_2026 FOR VALUES WITH (MODULUS 2, REMAINDER 0);
CREATE TABLE "tide data".reading_2026_1 PARTITION OF "tide data".reading_2026 FOR VALUES WITH (MODULUS 2, REMAINDER 1);
INSERT INTO "tide data".gauge SELECT generate_series(1, 5);
INSERT INTO "tide data".reading SELECT g, '2025-12-31 20:00+00'::timestamptz + h * interval '1 hour', h FROM generate_series(1, 5) g, generate_series(1, 10) h;

-- One partition has an index of its own: nothing is scripted over it.
CREATE TABLE visit (
  gauge_id bigint NOT NULL REFERENCES "tide data".gauge (id),  -- want: fk/not-indexed (no fix)
  year integer NOT NULL,
  PRIMARY KEY (year, gauge_id)
) PARTITION BY LIST (year);
CREATE TABLE visit_2095 PARTITION OF visit FOR VALUES IN (2095);
CREATE TABLE visit_2096 PARTITION OF visit FOR VALUES IN (2096);
CREATE INDEX visit_2095_gauge ON visit_2095 (gauge_id); -- want: partition/differs (no fix)
