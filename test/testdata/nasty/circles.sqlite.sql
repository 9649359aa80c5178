-- Generated columns, keys that count downwards, conflict clauses, deferred circles, r-trees, upserts in triggers, rows that clear themselves.
-- as : INSERT INTO berth (pier, slot, len) VALUES ('C', 77, 9); UPDATE berth SET len = 3 WHERE slot = 5; DELETE FROM crew_note WHERE boat = 9
-- as : INSERT INTO box VALUES (900, 1, 2, 3, 4); SELECT * FROM moored; INSERT INTO moored (boat, slot) VALUES ('nn', 6); SELECT area FROM berth
-- as : INSERT INTO tally (day) VALUES ('2026-01-01'); INSERT INTO tally (day) VALUES ('2026-01-01'); INSERT INTO down VALUES (1001, 'q'); INSERT INTO loose (a, b, c) VALUES ('a', 'b', 3)
-- as : INSERT INTO boat (boat_id, name, berth_slot) VALUES (3, 'again', 4) ON CONFLICT (boat_id) DO UPDATE SET name = excluded.name; INSERT INTO ring_a VALUES (901, NULL)
PRAGMA encoding = 'UTF-16le'; PRAGMA page_size = 8192; PRAGMA auto_vacuum = INCREMENTAL; PRAGMA user_version = 3;
CREATE TABLE berth (pier TEXT NOT NULL ON CONFLICT IGNORE DEFAULT 'A', slot INT NOT NULL, len REAL CHECK (len >= 0 OR len IS NULL), area REAL AS (len * 2.5) STORED, label TEXT GENERATED ALWAYS AS (pier || '-' || slot) VIRTUAL, PRIMARY KEY (pier, slot DESC) ON CONFLICT REPLACE) WITHOUT ROWID;
INSERT INTO berth (pier, slot, len) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 140) SELECT 'A', i, i / 3.0 FROM n;
CREATE TABLE boat (boat_id INTEGER PRIMARY KEY, name TEXT COLLATE NOCASE UNIQUE ON CONFLICT REPLACE, berth_pier TEXT DEFAULT 'A', berth_slot INT, tug_id INT, FOREIGN KEY (berth_pier, berth_slot) REFERENCES berth ON UPDATE CASCADE ON DELETE SET NULL);
INSERT INTO boat (boat_id, name, berth_slot, tug_id) SELECT slot, 'b' || slot, slot, nullif(slot % 30, 0) FROM berth; INSERT INTO boat (boat_id, name, berth_slot) VALUES (900, NULL, 1), (901, 'two', 1);
CREATE TABLE down (no INTEGER PRIMARY KEY DESC, what TEXT); INSERT INTO down SELECT slot, 'w' || slot FROM berth;
CREATE TABLE ring_a (id INT PRIMARY KEY, b INT REFERENCES ring_b (id) DEFERRABLE INITIALLY DEFERRED); CREATE TABLE ring_b (id INT PRIMARY KEY, a INT NOT NULL REFERENCES ring_a (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED);
PRAGMA foreign_keys = OFF; INSERT INTO ring_a SELECT slot, slot FROM berth; INSERT INTO ring_b SELECT slot, slot FROM berth; UPDATE ring_a SET b = NULL WHERE id = 7;
CREATE TABLE tally (day TEXT, n INT NOT NULL DEFAULT 1, seen TIMESTAMP DEFAULT CURRENT_TIMESTAMP); CREATE UNIQUE INDEX tally_day ON tally (day) WHERE day IS NOT NULL;
CREATE TRIGGER tally_up BEFORE INSERT ON tally WHEN EXISTS (SELECT 1 FROM tally WHERE day = NEW.day) BEGIN UPDATE tally SET n = n + 1 WHERE day = NEW.day; SELECT RAISE(IGNORE); END;
CREATE TABLE crew (crew_id INTEGER PRIMARY KEY AUTOINCREMENT, boat_id INT NOT NULL, mate INT, is_on TEXT, half REAL DEFAULT (1.0 / 2), x BLOB DEFAULT x'00ff', y TEXT DEFAULT "dq", z DEFAULT -1);
INSERT INTO crew (crew_id, boat_id, mate, is_on) SELECT slot * 3, 1 + slot % 140, nullif(slot % 20 * 3, 0), CASE slot % 2 WHEN 0 THEN 'Y' ELSE 'N' END FROM berth;
CREATE INDEX crew_boat ON crew (boat_id); CREATE INDEX crew_boat_on ON crew (boat_id, is_on COLLATE NOCASE); CREATE INDEX crew_low ON crew (lower(is_on), abs(mate)) WHERE mate > 3 OR is_on LIKE 'a\_%' ESCAPE '\';
CREATE TRIGGER crew_of AFTER UPDATE OF mate, is_on ON crew FOR EACH ROW BEGIN INSERT INTO down (no, what) VALUES (NEW.crew_id + 5000, 'x') ON CONFLICT (no) DO UPDATE SET what = excluded.what || 'y'; END;
CREATE TRIGGER crew_clear AFTER DELETE ON boat BEGIN DELETE FROM crew WHERE boat_id = OLD.boat_id; END;
CREATE VIEW moored (boat, slot, pier) AS WITH s AS (SELECT * FROM berth) SELECT b.name, s.slot, s.pier FROM boat b JOIN s ON s.slot = b.berth_slot AND s.pier = b.berth_pier; CREATE TRIGGER moored_in INSTEAD OF INSERT ON moored BEGIN INSERT INTO boat (name, berth_slot) VALUES (NEW.boat, NEW.slot); END;
CREATE VIRTUAL TABLE box USING rtree (id, x0, x1, y0, y1); INSERT INTO box VALUES (1, 0, 1, 0, 1);
CREATE TABLE loose (a, b, c); INSERT INTO loose SELECT 'a', slot, 'c' || slot FROM berth; INSERT INTO loose VALUES (1, 2.5, x'aa'), (NULL, NULL, NULL);
CREATE TABLE crew_note (crew_id INT REFERENCES crew ON DELETE RESTRICT, boat INT REFERENCES boat (boat_id), note TEXT CHECK (length(note) < 50 AND note NOT GLOB '*[;]*')); INSERT INTO crew_note SELECT slot * 3, slot, 'n' || slot FROM berth; CREATE INDEX cn1 ON crew_note (crew_id); CREATE INDEX cn2 ON crew_note (crew_id, boat); CREATE INDEX cn3 ON crew_note (boat);
DELETE FROM crew WHERE crew_id = 420; ANALYZE;
