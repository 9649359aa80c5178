-- Nothing: the server has only begun to count.
CREATE TABLE station (id NUMBER(10) PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL CONSTRAINT uq_code UNIQUE, note VARCHAR2(20 CHAR));
CREATE INDEX station_note ON station (note);
INSERT INTO station VALUES (1, 'a', 'x');
