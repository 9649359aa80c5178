-- Rows known by their rowids: full-text and r-tree tables beside the content, views and triggers that name
-- them, other tables that keep them; generated columns; rows deleted, so that the numbers have holes.
-- as : INSERT INTO doc (title, body) VALUES ('new', 'squall line'); SELECT * FROM doc_words WHERE doc_words MATCH 'squall'; DELETE FROM doc WHERE rowid = 7
-- as : UPDATE doc SET body = 'calm' WHERE rowid = 9; SELECT * FROM doc_ids; INSERT INTO pinned (doc_rowid) SELECT rowid FROM doc WHERE title = 't14'
-- as : INSERT INTO area (name, x1, x2) VALUES ('a', 1, 2); INSERT INTO tariff (code, cents) VALUES ('zz', 5); INSERT INTO note VALUES (5, 'x', 3); SELECT last_insert_rowid()
CREATE TABLE doc (title TEXT, body TEXT, seen_at TEXT, station_id INT, words INT GENERATED ALWAYS AS (length(body)) VIRTUAL, kept TEXT AS (upper(title)) STORED);
INSERT INTO doc (title, body, seen_at, station_id) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT 't' || i, 'body of ' || i, '2024-01-01', 1 + i % 100 FROM n;
DELETE FROM doc WHERE rowid % 3 = 0;
CREATE VIRTUAL TABLE doc_words USING fts5(title, body, content = 'doc', content_rowid = 'rowid'); INSERT INTO doc_words (doc_words) VALUES ('rebuild');
CREATE TRIGGER doc_in AFTER INSERT ON doc BEGIN INSERT INTO doc_words (rowid, title, body) VALUES (new.rowid, new.title, new.body); END;
CREATE TRIGGER doc_out AFTER DELETE ON doc BEGIN INSERT INTO doc_words (doc_words, rowid, title, body) VALUES ('delete', old.rowid, old.title, old.body); END;
CREATE TRIGGER doc_up AFTER UPDATE OF title, body ON doc BEGIN INSERT INTO doc_words (doc_words, rowid, title, body) VALUES ('delete', old.rowid, old.title, old.body); INSERT INTO doc_words (rowid, title, body) VALUES (new.rowid, new.title, new.body); END;
CREATE VIEW doc_ids AS SELECT rowid AS id, _rowid_ AS again, oid AS thrice, title FROM doc;
CREATE TABLE pinned (doc_rowid INT NOT NULL); INSERT INTO pinned SELECT rowid FROM doc WHERE rowid % 5 = 0;
CREATE TABLE station (station_id INT NOT NULL, code TEXT NOT NULL, "rowid" TEXT); INSERT INTO station WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 120) SELECT i, 's' || i, 'r' || i FROM n; DELETE FROM station WHERE station_id % 7 = 0 AND station_id > 100;
CREATE TABLE area (name TEXT, x1 REAL, x2 REAL); CREATE VIRTUAL TABLE area_box USING rtree(id, x1, x2);
INSERT INTO area WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 130) SELECT 'a' || i, i, i + 1 FROM n; DELETE FROM area WHERE rowid % 4 = 0; INSERT INTO area_box SELECT rowid, x1, x2 FROM area;
CREATE TABLE tariff (code TEXT PRIMARY KEY, cents INT, CHECK (cents >= 0)); INSERT INTO tariff WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 125) SELECT 'c' || i, i FROM n; DELETE FROM tariff WHERE cents < 20;
CREATE TABLE note (note_no INTEGER PRIMARY KEY DESC, what TEXT, station_id INT); INSERT INTO note WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 122) SELECT i * 10, 'w', 1 + i % 100 FROM n; DELETE FROM note WHERE note_no % 30 = 0;
CREATE INDEX note_station ON note (station_id); CREATE INDEX note_station_again ON note (station_id); CREATE UNIQUE INDEX doc_title ON doc (title) WHERE station_id > 0; CREATE INDEX doc_kept ON doc (kept, words);
CREATE TABLE counted (n INTEGER PRIMARY KEY AUTOINCREMENT, what); INSERT INTO counted VALUES (-5, 'below'), (9000000000, 'above'); INSERT INTO counted (what) SELECT 'x' FROM doc; DELETE FROM counted WHERE n > 9000000050; UPDATE sqlite_sequence SET seq = 9000009999 WHERE name = 'counted';
