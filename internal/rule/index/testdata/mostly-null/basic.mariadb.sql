-- not mysql: it bounds recursion by another variable
-- probe
SET max_recursive_iterations = 100000;
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flaw integer, level integer NOT NULL);
CREATE INDEX reading_flaw ON reading (flaw); -- want: index/mostly-null (no fix)
CREATE INDEX reading_level ON reading (level);
INSERT INTO reading WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 12000) SELECT i, CASE WHEN i % 20 = 0 THEN i END, i FROM n;
ANALYZE TABLE reading;
