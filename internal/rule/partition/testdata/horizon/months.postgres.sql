-- Everything that a part has to have like the whole; months, moments with a zone; an empty default.
CREATE TABLE station (id bigint PRIMARY KEY);
CREATE TABLE reading (station_id bigint NOT NULL REFERENCES station (id) ON DELETE CASCADE, at timestamptz NOT NULL DEFAULT now(), mm integer CHECK (mm > -9999), -- want: partition/horizon
  cm numeric GENERATED ALWAYS AS (mm / 10.0) STORED, PRIMARY KEY (station_id, at), CONSTRAINT "only one" UNIQUE (at, station_id)) PARTITION BY RANGE (at); -- want: key/repeated (no fix)
CREATE INDEX ON reading (mm) WHERE mm > 5000;
CREATE INDEX by_whole_cm ON reading ((mm / 10));
CREATE TABLE reading_2026_07 PARTITION OF reading FOR VALUES FROM ('2026-07-01') TO ('2026-08-01') WITH (fillfactor = 90);
CREATE TABLE reading_2026_08 PARTITION OF reading FOR VALUES FROM ('2026-08-01') TO ('2026-09-01') WITH (fillfactor = 90);
CREATE TABLE reading_2026_09 PARTITION OF reading FOR VALUES FROM ('2026-09-01') TO ('2026-10-01') WITH (fillfactor = 90);
INSERT INTO station VALUES (1);
INSERT INTO reading VALUES (1, '2026-07-04', 3);
-- Rows in the default stand in the way of new parts.
CREATE TABLE filled (id bigint NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at); -- want: partition/horizon (no fix)
CREATE TABLE filled_2026_07 PARTITION OF filled FOR VALUES FROM ('2026-07-01') TO ('2026-08-01');
CREATE TABLE filled_2026_08 PARTITION OF filled FOR VALUES FROM ('2026-08-01') TO ('2026-09-01');
CREATE TABLE filled_rest PARTITION OF filled DEFAULT;
INSERT INTO filled VALUES (1, '2026-11-11');
ALTER TABLE filled ALTER at SET NOT NULL; -- (filled_rest) -- want: partition/default-filled (no fix)
-- Names that do not tell.
CREATE TABLE nameless (id bigint NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at); -- want: partition/horizon (no fix)
CREATE TABLE nameless_a PARTITION OF nameless FOR VALUES FROM ('2026-07-01') TO ('2026-08-01');
CREATE TABLE nameless_b PARTITION OF nameless FOR VALUES FROM ('2026-08-01') TO ('2026-09-01');
ANALYZE;
