-- Carried columns, operator classes, null order, methods, sort of nulls.
CREATE TABLE reading (id bigint PRIMARY KEY, gauge_id bigint NOT NULL, taken bigint NOT NULL, label text);
CREATE INDEX reading_wide ON reading (gauge_id, taken) INCLUDE (label);
CREATE INDEX reading_aboard ON reading (gauge_id) INCLUDE (taken);  -- want: index/prefix
CREATE INDEX reading_not_aboard ON reading (gauge_id) INCLUDE (id);
CREATE INDEX reading_label ON reading (label, id);
CREATE INDEX reading_label_pattern ON reading (label text_pattern_ops);
CREATE INDEX reading_label_nulls ON reading (label NULLS FIRST);
CREATE INDEX reading_label_hash ON reading USING hash (label);
CREATE INDEX reading_taken_clustered ON reading (taken);
CREATE INDEX reading_taken_wide ON reading (taken, id);
CLUSTER reading USING reading_taken_clustered;

-- A partitioned table: said, but left to you.
CREATE TABLE tide (id bigint, year integer, level integer, PRIMARY KEY (year, id)) PARTITION BY LIST (year);
CREATE TABLE tide_2026 PARTITION OF tide FOR VALUES IN (2026);
CREATE INDEX tide_year ON tide (year);  -- want: index/prefix (no fix)
