-- Spellings, comments, statistics, counters, triggers without lists of columns, defaults of
-- odd forms, tables without types, hostile names, a reference that leads to no key.
-- as : INSERT INTO station (code, name) VALUES ('new', 'New'); INSERT INTO visit (station_id, note) VALUES (1, 'x')
-- as : INSERT INTO visit_view (station_id, note) VALUES (2, 'y'); SELECT * FROM station_names; UPDATE gauge SET model = 'M' WHERE gauge_no = 1
-- as : INSERT INTO odd (a, b, c, d) VALUES (991, 2, 3, 4); SELECT * FROM "select"; INSERT INTO counted (what) VALUES ('w')
PRAGMA user_version = 7; PRAGMA application_id = 42;
create table  station( -- the stations
  station_id INTEGER PRIMARY KEY AUTOINCREMENT, code TEXT NOT NULL UNIQUE /* on the plate */, name text DEFAULT ('none') );
INSERT INTO station (code, name) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT 'S' || i, 'Station ' || i FROM n;
CREATE TABLE [visit] (visit_id INTEGER PRIMARY KEY, station_id INT, note TEXT, cost REAL DEFAULT .5, less REAL DEFAULT -.5, tiny REAL DEFAULT 1e-3, FOREIGN KEY (station_id) REFERENCES station);
INSERT INTO visit (station_id, note) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) SELECT 1 + i % 150, 'n' FROM n;
CREATE TABLE visit_log (visit_id INT, at TEXT);
CREATE TRIGGER visit_logged AFTER INSERT ON visit BEGIN INSERT INTO visit_log VALUES (NEW.visit_id, datetime('now')); END;
CREATE VIEW visit_view AS SELECT station_id, note FROM visit;
CREATE TRIGGER visit_by_view INSTEAD OF INSERT ON visit_view BEGIN INSERT INTO visit (station_id, note) VALUES (NEW.station_id, NEW.note); END;
CREATE VIEW station_names AS SELECT name FROM station;
CREATE TABLE "gauge"(gauge_no INT NOT NULL, model, station_id REFERENCES station (station_id), CONSTRAINT g UNIQUE (gauge_no) ON CONFLICT REPLACE);
INSERT INTO gauge WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 130) SELECT i, 'M' || i % 4, 1 + i % 150 FROM n;
CREATE INDEX gauge_model ON gauge (model); CREATE INDEX gauge_model_no ON gauge (model, gauge_no DESC);
CREATE TABLE odd (a, b, c, d); INSERT INTO odd WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 120) SELECT i, i, i, i FROM n;
CREATE TABLE "select" ("primary key" TEXT, "a""b" INT, 'it''s' INT, [x y] INT REFERENCES station (station_id)); INSERT INTO "select" VALUES ('p', 1, 2, 3);
CREATE TABLE counted (id INTEGER PRIMARY KEY AUTOINCREMENT, what TEXT); INSERT INTO counted (id, what) VALUES (500, 'a'); DELETE FROM counted; INSERT INTO counted (what) VALUES ('b');
CREATE TABLE dangling (id INTEGER PRIMARY KEY, no INT REFERENCES nowhere (no), yes INT REFERENCES odd (a));
INSERT INTO dangling (no) VALUES (NULL);
CREATE TABLE part (a INT, b INT, PRIMARY KEY (a, b)) WITHOUT ROWID; INSERT INTO part SELECT a, b FROM odd;
ANALYZE;
