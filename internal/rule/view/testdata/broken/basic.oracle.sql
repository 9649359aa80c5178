CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, name VARCHAR2(40 CHAR) NOT NULL, height NUMBER(10));
CREATE TABLE gone (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE VIEW gone_ids AS SELECT id FROM gone; -- want: view/broken "every query of view gone_ids fails" (no fix)
CREATE VIEW station_ids AS SELECT id FROM station;
CREATE VIEW station_names AS SELECT i.id, s.name FROM station_ids i JOIN station s ON s.id = i.id;
DROP TABLE gone;
