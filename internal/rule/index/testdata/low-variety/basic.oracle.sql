-- probe
CREATE TABLE reading (id NUMBER(10) NOT NULL PRIMARY KEY, grade NUMBER(10), depth NUMBER(10) NOT NULL);
CREATE INDEX reading_grade ON reading (grade); -- want: index/low-variety "4 different values"
CREATE INDEX reading_level ON reading (depth);
CREATE TABLE digit (d NUMBER(10) NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0); INSERT INTO digit VALUES (1); INSERT INTO digit VALUES (2); INSERT INTO digit VALUES (3); INSERT INTO digit VALUES (4); INSERT INTO digit VALUES (5); INSERT INTO digit VALUES (6); INSERT INTO digit VALUES (7); INSERT INTO digit VALUES (8); INSERT INTO digit VALUES (9);
INSERT INTO reading SELECT i, i - 4 * FLOOR(i / 4), i FROM (SELECT a.d + 10 * b.d + 100 * c.d + 1000 * e.d AS i FROM digit a, digit b, digit c, digit e UNION ALL SELECT 10000 + a.d + 10 * b.d + 100 * c.d FROM digit a, digit b, digit c) n;
BEGIN DBMS_STATS.GATHER_TABLE_STATS('SALTMERE', 'READING'); END;
/
DROP TABLE digit;
