-- probe
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, grade integer, level integer NOT NULL);
CREATE INDEX reading_grade ON reading (grade); -- want: index/low-variety "4 different values"
CREATE INDEX reading_level ON reading (level);
CREATE TABLE digit (d integer NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
WITH n (i) AS (SELECT a.d + 10 * b.d + 100 * c.d + 1000 * e.d FROM digit a, digit b, digit c, digit e UNION ALL SELECT 10000 + a.d + 10 * b.d + 100 * c.d FROM digit a, digit b, digit c)
INSERT INTO reading SELECT i, i % 4, i FROM n;
DROP TABLE digit;
