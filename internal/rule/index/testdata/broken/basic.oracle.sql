-- What serves no query until it is built again; of a local index one part is enough.
CREATE TABLE station (id NUMBER(10) PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL);
INSERT INTO station VALUES (1, 'a'); INSERT INTO station VALUES (2, 'b');
CREATE INDEX station_code ON station (code);
CREATE INDEX station_code_id ON station (id DESC, code); -- want: index/broken
ALTER INDEX station_code_id UNUSABLE;
CREATE TABLE tide (id NUMBER(10) PRIMARY KEY, at DATE NOT NULL) PARTITION BY RANGE (at) (PARTITION p2098 VALUES LESS THAN (DATE '2099-01-01'), PARTITION p2099 VALUES LESS THAN (MAXVALUE));
CREATE INDEX tide_at ON tide (at) LOCAL; -- want: index/broken
ALTER INDEX tide_at UNUSABLE;
