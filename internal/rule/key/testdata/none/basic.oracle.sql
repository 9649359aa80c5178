-- Tables without a primary key: with and without something to promote.
CREATE TABLE station (id NUMBER(10) PRIMARY KEY, name VARCHAR2(40 CHAR));
CREATE TABLE section (  -- want: key/none "the unique key \(code\)"
  code VARCHAR2(8 CHAR) NOT NULL CONSTRAINT section_code UNIQUE,
  name VARCHAR2(40 CHAR)
);
CREATE TABLE road (id NUMBER(10) PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL REFERENCES section (code));
CREATE INDEX road_code ON road (code);
CREATE TABLE depth (station_id NUMBER(10) NOT NULL REFERENCES station (id), kind NUMBER(10) NOT NULL, height NUMBER(10));  -- want: key/none "the unique index"
CREATE UNIQUE INDEX level_unique ON depth (station_id, kind DESC);
CREATE TABLE note (id VARCHAR2(10 CHAR), text VARCHAR2(100 CHAR));             -- want: key/none "two rows can be alike"
INSERT INTO section VALUES ('N', 'North'); INSERT INTO section VALUES ('S', NULL);
INSERT INTO road VALUES (1, 'N');
INSERT INTO station VALUES (1, 'A');
INSERT INTO depth VALUES (1, 1, 5); INSERT INTO depth VALUES (1, 2, NULL);
INSERT INTO note VALUES ('a', 'b'); INSERT INTO note VALUES ('a', 'b');
