-- What reads like something else: texts in double quotes, columns called as rowids are, keys that are no rowids,
-- tables made by queries, types that say nothing, expressions and partial conditions in unique indexes, views with
-- lists and natural joins, triggers on views, on columns and within triggers, json and dates as defaults, conflict
-- clauses, references to themselves, to keys with a collation and to what is not there, statistics, sequences set by hand.
-- as : INSERT INTO harbour (code, kind) VALUES ('new', 'quay'); UPDATE harbour SET kind = 'pier' WHERE code = 'h7'; DELETE FROM harbour WHERE code = 'h9'
-- as : INSERT INTO ship VALUES (7001, 'n', 5, 'h3', '{"a":[1,2]}', 3); SELECT * FROM ships_seen; INSERT INTO ship_entry (name, harbour) VALUES ('by view', 'h4'); UPDATE ship_entry SET name = 'y' WHERE no = 5
-- as : INSERT INTO hidden (oid, rowid, _rowid_) VALUES (901, 902, 903); SELECT count(*) FROM copied WHERE note = 'n5'; REPLACE INTO fixture VALUES ('f3', 'changed', NULL)
-- as : INSERT INTO voyage (ship, leg, since) VALUES (5, 900, '2031-05-05'); UPDATE voyage SET parent_leg = NULL WHERE ship = 5; SELECT name FROM legs WHERE ship = 5
PRAGMA foreign_keys = off;
PRAGMA application_id = 77; PRAGMA user_version = 12;
CREATE TABLE harbour (
  code TEXT COLLATE NOCASE NOT NULL,
  kind TEXT DEFAULT "quay" CHECK (kind <> "none" AND kind NOT LIKE '%; DROP TABLE%'), -- a text in double quotes
  opened DEFAULT (date('now', '-1 day')),
  "primary" INTEGER DEFAULT -1,
  depth DECIMAL(5,2) DEFAULT +4.5e0,
  UNIQUE (code) ON CONFLICT IGNORE
);
WITH RECURSIVE n (i) AS (VALUES (1) UNION ALL SELECT i + 1 FROM n WHERE i < 130) INSERT INTO harbour (code, kind) SELECT 'h' || i, CASE WHEN i % 2 THEN 'quay' ELSE 'pier' END FROM n;
CREATE UNIQUE INDEX harbour_lower ON harbour (lower(code), "primary" DESC) WHERE kind <> "gone";
CREATE INDEX harbour_kind ON harbour (kind);
CREATE INDEX harbour_kind_depth ON harbour (kind, depth);
CREATE TABLE ship (
  no INTEGER PRIMARY KEY DESC, -- not the rowid
  name VARCHAR(20) NOT NULL /* , never INTEGER */,
  tons INT,
  harbour TEXT REFERENCES harbour (code) ON UPDATE CASCADE,
  papers TEXT DEFAULT (json_array(1, 'a')) CHECK (json_valid(papers)),
  owner INTEGER REFERENCES owner (id)
);
WITH RECURSIVE n (i) AS (VALUES (1) UNION ALL SELECT i + 1 FROM n WHERE i < 140) INSERT INTO ship (no, name, tons, harbour, owner) SELECT i, 's' || i, i % 40, 'h' || (1 + i % 130), i % 7 FROM n;
CREATE TABLE owner (id INT PRIMARY KEY, name);
INSERT INTO owner VALUES (0, 'o0'), (1, 'o1'), (2, 'o2'), (3, 'o3'), (4, 'o4'), (5, 'o5'), (6, 'o6');
CREATE TABLE hidden (rowid INT NOT NULL UNIQUE, oid INT NOT NULL, _rowid_ TEXT);
INSERT INTO hidden SELECT no, no + 1, 'r' || no FROM ship;
CREATE TABLE copied AS SELECT no, 'n' || no AS note, tons * 1.5 AS half, NULL AS none FROM ship;
CREATE INDEX copied_no ON copied (no);
CREATE INDEX copied_no_note ON copied (no, note COLLATE NOCASE);
CREATE TABLE fixture (code CHAR(5) PRIMARY KEY ON CONFLICT REPLACE, says TEXT NOT NULL ON CONFLICT ABORT DEFAULT '', at DATETIME) WITHOUT ROWID;
INSERT INTO fixture (code, says) SELECT 'f' || no, name FROM ship WHERE no < 110;
CREATE TABLE "a ""b"".[c]" (id INTEGER PRIMARY KEY AUTOINCREMENT, "in ""q""" TEXT, ship_no INT REFERENCES ship);
INSERT INTO "a ""b"".[c]" ("in ""q""", ship_no) SELECT name, no FROM ship;
UPDATE sqlite_sequence SET seq = 700;
CREATE TABLE voyage (
  ship INTEGER NOT NULL REFERENCES ship (no) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  leg INTEGER NOT NULL,
  parent_leg INTEGER,
  since TEXT DEFAULT CURRENT_DATE,
  days INTEGER AS (leg % 9) STORED,
  told TEXT GENERATED ALWAYS AS (since || '/' || leg),
  PRIMARY KEY (ship, leg),
  FOREIGN KEY (ship, parent_leg) REFERENCES voyage (ship, leg) MATCH FULL ON DELETE SET NULL
);
INSERT INTO voyage (ship, leg) SELECT no, no % 5 FROM ship;
CREATE INDEX voyage_told ON voyage (told);
CREATE TABLE loose (a, b);
CREATE TABLE lost (id INTEGER PRIMARY KEY, nowhere_id INTEGER REFERENCES nowhere (id));
CREATE TABLE log_of_ships (at TEXT DEFAULT CURRENT_TIMESTAMP, what TEXT, no INT);
CREATE VIEW ships_seen (number, called, lies_at) AS SELECT no, name, harbour FROM ship WHERE name <> "nobody";
CREATE VIEW legs AS SELECT v.*, s.name FROM voyage v JOIN (SELECT no AS ship, name FROM ship) s USING (ship);
CREATE VIEW both AS SELECT * FROM copied NATURAL JOIN ship;
CREATE VIEW ship_entry AS SELECT no, name, harbour FROM ship;
CREATE TRIGGER ship_entered INSTEAD OF INSERT ON ship_entry BEGIN INSERT INTO ship (no, name, harbour) SELECT coalesce(NEW.no, max(no) + 1), NEW.name, NEW.harbour FROM ship; END;
CREATE TRIGGER ship_renamed INSTEAD OF UPDATE OF name ON ship_entry WHEN NEW.name IS NOT "x" BEGIN UPDATE ship SET name = NEW.name WHERE no = OLD.no; END;
CREATE TRIGGER ship_told AFTER UPDATE OF name, harbour ON ship WHEN OLD.name <> NEW.name BEGIN INSERT INTO log_of_ships (what, no) VALUES ('called "' || NEW.name || '"; -- END', NEW.no); END;
CREATE TRIGGER harbour_gone BEFORE DELETE ON harbour BEGIN
  SELECT CASE WHEN OLD.code = "h1" THEN RAISE(ABORT, 'the first stays') END;
  UPDATE ship SET harbour = NULL WHERE harbour = OLD.code;
END;
ANALYZE;
