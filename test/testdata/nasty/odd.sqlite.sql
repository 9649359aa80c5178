-- Names that read like SQL, comments inside declarations, odd types, strict tables, virtual tables, conflict clauses.
-- as : INSERT INTO reading (station_id, level) VALUES (3, 1.5); UPDATE station SET name = 'x' WHERE station_id = 4; DELETE FROM visit WHERE visit_no = 5
-- as : INSERT INTO visit_v (visit_no, note) VALUES (900, 'v'); SELECT * FROM per_station; INSERT INTO words (body) VALUES ('abc'); SELECT * FROM words WHERE words MATCH 'abc'
-- as : INSERT INTO "main.odd" (a, "PRIMARY KEY", station_id) VALUES (900, 'x', NULL); INSERT INTO strict_t VALUES (900, 's4', 3, x'00')
PRAGMA user_version = 7; PRAGMA application_id = 99;
CREATE TABLE station (station_id INTEGER PRIMARY KEY AUTOINCREMENT, code TEXT NOT NULL UNIQUE ON CONFLICT IGNORE COLLATE NOCASE, name, half DEFAULT .5, minus DEFAULT -.5, small REAL DEFAULT 1e-3, big DEFAULT +1E+10, hex DEFAULT 0xFF, cur DEFAULT CURRENT_TIMESTAMP, expr DEFAULT (1 + (2 * 3)), str DEFAULT "dq", blob DEFAULT x'0AFF', nul DEFAULT NULL, tr DEFAULT TRUE, up INT GENERATED ALWAYS AS (station_id * 2) STORED, vi TEXT AS (code || '!') VIRTUAL);
INSERT INTO station (code, name) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 150) SELECT 's' || i, 'Name ' || i FROM n;
CREATE TABLE reading(reading_id integer primary key /* the "key" */, station_id INT, -- where; it's
  level DECIMAL(5,2) CHECK (level < 1000 /* ) */ AND level <> ')'), at TEXT DEFAULT (datetime('now')), FOREIGN KEY(station_id) REFERENCES station ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED);
INSERT INTO reading (station_id, level) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 300) SELECT 1 + i % 150, i / 2.0 FROM n;
CREATE TABLE visit (visit_no INT, station_id TEXT, keeper_id, note VARCHAR(20) COLLATE RTRIM, "group" TEXT, [odd col] INT, `tick` INT, CONSTRAINT "c""k" CHECK ("group" IN ('a''b', 'c', "note")));
INSERT INTO visit (visit_no, station_id, keeper_id, note, "group") WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 200) SELECT i, 1 + i % 150, 1 + i % 100, 'n', 'c' FROM n;
CREATE TABLE keeper (keeper_id PRIMARY KEY, badge TEXT) WITHOUT ROWID; INSERT INTO keeper WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i+1 FROM n WHERE i < 100) SELECT i, 'b' || i FROM n;
CREATE TABLE "main.odd" (a INT, "PRIMARY KEY" TEXT, station_id INT REFERENCES station(station_id)); INSERT INTO "main.odd" SELECT station_id, 'p', nullif(station_id, 4) FROM station;
CREATE TABLE "PRIMARY KEY" ("PRIMARY KEY" INT, "REFERENCES" INT, "CHECK (" INT, PRIMARY KEY ("PRIMARY KEY")); INSERT INTO "PRIMARY KEY" SELECT station_id, station_id, 1 FROM station;
CREATE TABLE "tab
le;--" ("a""b" INT, "c'd" INT REFERENCES "PRIMARY KEY" ("PRIMARY KEY")); INSERT INTO "tab
le;--" SELECT station_id, station_id FROM station;
CREATE TABLE strict_t (id INT PRIMARY KEY, t TEXT, n INT, b BLOB) STRICT; INSERT INTO strict_t SELECT station_id, code, station_id, x'01' FROM station;
CREATE INDEX reading_at ON reading (at DESC, lower(level)) WHERE level > 3; CREATE INDEX r1 ON reading (station_id); CREATE INDEX r2 ON reading (station_id); CREATE UNIQUE INDEX v1 ON visit (visit_no COLLATE NOCASE);
CREATE TABLE log (what TEXT); CREATE TRIGGER visit_ins AFTER INSERT ON visit WHEN new.note <> 'q' BEGIN INSERT INTO log VALUES ('x;' || new.note); UPDATE visit SET tick = 1 WHERE rowid = new.rowid; END;
CREATE VIEW visit_v AS SELECT visit_no, note FROM visit WHERE "group" <> 'zz'; CREATE TRIGGER visit_v_ins INSTEAD OF INSERT ON visit_v BEGIN INSERT INTO visit (visit_no, note, "group") VALUES (new.visit_no, new.note, 'c'); END;
CREATE VIEW per_station (id, n) AS SELECT s.station_id, count(*) FROM station s JOIN visit v ON v.station_id = s.station_id GROUP BY 1;
CREATE VIRTUAL TABLE words USING fts5(body, tokenize = 'porter'); INSERT INTO words VALUES ('one two');
CREATE TABLE typed (a, b ANY, c "odd type" (3, 4), d VARYING CHARACTER(10), e UNSIGNED BIG INT); INSERT INTO typed SELECT station_id, code, 1, 'd', 5 FROM station;
UPDATE visit SET station_id = NULL, keeper_id = NULL, note = NULL, "group" = NULL WHERE visit_no = 7; ANALYZE;
