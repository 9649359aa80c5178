-- A foreign key cannot lean on such an index, which is one more reason for a constraint.
CREATE TABLE station (id NUMBER(19) PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL, name VARCHAR2(40 CHAR) NOT NULL);
CREATE UNIQUE INDEX station_code ON station (code); -- want: key/index-only
CREATE UNIQUE INDEX station_upper ON station (UPPER(name));
INSERT INTO station VALUES (1, 'a', 'A'); INSERT INTO station VALUES (2, 'b', 'B');
