-- Texts and bytes where numbers are declared, numbers alone, and a type that takes anything.
-- probe
CREATE TABLE reading (
  id INTEGER PRIMARY KEY,
  level_mm INTEGER, -- want: column/affinity-broken "^2 of 60 rows hold no number in level_mm, which is declared INTEGER$" (no fix)
  depth NUMERIC, -- want: column/affinity-broken "1 of 60 rows holds" (no fix)
  speed REAL,
  day TEXT,
  anything
);
CREATE TABLE strict_reading (id INTEGER PRIMARY KEY, level_mm INTEGER) STRICT;
WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 60) INSERT INTO reading SELECT i, CASE WHEN i = 7 THEN 'unknown' WHEN i = 9 THEN x'01' WHEN i % 10 > 0 THEN i * 37 % 900 END, CASE WHEN i = 3 THEN 'n/a' WHEN i % 4 > 0 THEN i / 7.0 END, CASE WHEN i % 3 > 0 THEN i / 3.0 END, CASE i % 3 WHEN 0 THEN NULL ELSE 'd' || i END, CASE i % 2 WHEN 0 THEN i WHEN 1 THEN 'x' END FROM n;
INSERT INTO strict_reading VALUES (1, 5), (2, 6);
