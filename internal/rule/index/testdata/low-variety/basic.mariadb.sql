-- not mysql: it bounds recursion by another variable
-- probe
SET max_recursive_iterations = 100000;
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, grade integer, level integer NOT NULL);
CREATE INDEX reading_grade ON reading (grade); -- want: index/low-variety "4 different values"
CREATE INDEX reading_level ON reading (level);
INSERT INTO reading WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 12000) SELECT i, i % 4, i FROM n;
ANALYZE TABLE reading;
