CREATE PARTITION FUNCTION pf_reading (int) AS RANGE RIGHT FOR VALUES (1000, 2000, 3000);
CREATE PARTITION SCHEME ps_reading AS PARTITION pf_reading ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, at integer NOT NULL, CONSTRAINT pk_reading PRIMARY KEY (id, at)) ON ps_reading(at); -- want: partition/uneven (no fix)
CREATE TABLE digit (d integer NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
WITH n (i) AS (SELECT a.d + 10 * b.d + 100 * c.d + 1000 * e.d FROM digit a, digit b, digit c, digit e UNION ALL SELECT 10000 + a.d + 10 * b.d + 100 * c.d + 1000 * e.d FROM digit a, digit b, digit c, digit e)
INSERT INTO reading SELECT i, i FROM n;
DROP TABLE digit;
