-- not mysql: the stand-in lists no view that is broken
-- A view whose table went, one whose column went, and sound ones.
CREATE TABLE station (id int NOT NULL PRIMARY KEY, name varchar(40) NOT NULL, height int);
CREATE TABLE gone (id int NOT NULL PRIMARY KEY);
CREATE VIEW gone_ids AS SELECT id FROM gone; -- want: view/broken "every query of view gone_ids fails" (no fix)
CREATE VIEW station_ids AS SELECT id FROM station;
CREATE VIEW station_names AS SELECT i.id, s.name FROM station_ids i JOIN station s ON s.id = i.id;
DROP TABLE gone;
