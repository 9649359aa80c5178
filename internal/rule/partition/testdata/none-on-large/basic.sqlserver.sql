-- set partition/none-on-large rows 500
CREATE TABLE reading (id integer PRIMARY KEY, at datetimeoffset(0) NOT NULL); -- want: partition/none-on-large (no fix)
CREATE TABLE digit (d integer NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
INSERT INTO reading SELECT a.d + 10 * b.d + 100 * c.d, sysdatetimeoffset() FROM digit a, digit b, digit c;
CREATE TABLE plain (id integer PRIMARY KEY, n integer);
INSERT INTO plain SELECT a.d + 10 * b.d + 100 * c.d, 1 FROM digit a, digit b, digit c;
