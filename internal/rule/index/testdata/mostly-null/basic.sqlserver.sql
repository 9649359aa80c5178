-- probe
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flaw integer, level integer NOT NULL);
CREATE INDEX reading_flaw ON reading (flaw); -- want: index/mostly-null
CREATE INDEX reading_level ON reading (level);
CREATE TABLE digit (d integer NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
WITH n (i) AS (SELECT a.d + 10 * b.d + 100 * c.d + 1000 * e.d FROM digit a, digit b, digit c, digit e UNION ALL SELECT 10000 + a.d + 10 * b.d + 100 * c.d FROM digit a, digit b, digit c)
INSERT INTO reading SELECT i, CASE WHEN i % 20 = 0 THEN i END, i FROM n;
DROP TABLE digit;
