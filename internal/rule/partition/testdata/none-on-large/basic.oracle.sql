-- set partition/none-on-large rows 500
CREATE TABLE reading (id NUMBER(10) PRIMARY KEY, at TIMESTAMP(0) WITH TIME ZONE NOT NULL); -- want: partition/none-on-large (no fix)
CREATE TABLE digit (d NUMBER(10) NOT NULL PRIMARY KEY);
INSERT INTO digit VALUES (0); INSERT INTO digit VALUES (1); INSERT INTO digit VALUES (2); INSERT INTO digit VALUES (3); INSERT INTO digit VALUES (4); INSERT INTO digit VALUES (5); INSERT INTO digit VALUES (6); INSERT INTO digit VALUES (7); INSERT INTO digit VALUES (8); INSERT INTO digit VALUES (9);
INSERT INTO reading SELECT a.d + 10 * b.d + 100 * c.d, SYSTIMESTAMP FROM digit a, digit b, digit c;
BEGIN DBMS_STATS.GATHER_TABLE_STATS('SALTMERE', 'READING'); END;
/
CREATE TABLE plain (id NUMBER(10) PRIMARY KEY, n NUMBER(10));
INSERT INTO plain SELECT a.d + 10 * b.d + 100 * c.d, 1 FROM digit a, digit b, digit c;
