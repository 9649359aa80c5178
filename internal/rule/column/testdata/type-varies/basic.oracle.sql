CREATE TABLE a (id NUMBER(10) PRIMARY KEY, station_mark VARCHAR2(12 CHAR) NOT NULL, mm NUMBER(10));
CREATE TABLE b (id NUMBER(10) PRIMARY KEY, station_mark VARCHAR2(12 CHAR) NOT NULL, mm NUMBER(10));
CREATE TABLE c (id NUMBER(10) PRIMARY KEY, station_mark VARCHAR2(12 CHAR) NOT NULL, mm NUMBER(10));
CREATE TABLE d (
  id NUMBER(19) PRIMARY KEY,
  station_mark VARCHAR2(8 CHAR) DEFAULT 'none' NOT NULL CONSTRAINT ck_mark CHECK (station_mark<>'x'), -- want: column/type-varies
  mm VARCHAR2(9 CHAR)                                                                                                       -- want: column/type-varies (no fix)
);
CREATE UNIQUE INDEX d_mark ON d (station_mark DESC);
INSERT INTO d VALUES (1, 'y', '7');
