-- Names and texts that look like a capture's own lines, or break those of others.
CREATE TABLE "@done 3" (id INTEGER PRIMARY KEY AUTOINCREMENT, "@row 2 []" TEXT DEFAULT '@end head 1', "a
b" TEXT CHECK ("a
b" <> 'x	\n"'), "tab	bed" TEXT COLLATE NOCASE);
CREATE TABLE "@nexdal 1 sqlite" (id INTEGER);
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, seen TEXT DEFAULT (datetime('now')), twice INTEGER AS (id * 2) STORED) STRICT;
CREATE TABLE "ä 水 🌊 \ '" (station_id INTEGER NOT NULL REFERENCES station, kind TEXT, PRIMARY KEY (station_id, kind)) WITHOUT ROWID;
CREATE VIEW watched AS SELECT id, code || '
@failed head 42501' AS code FROM station;
CREATE VIEW gone AS SELECT id FROM nowhere;
CREATE TRIGGER "t
(2 rows)" AFTER UPDATE ON station BEGIN SELECT '@row 2 []'; END;
CREATE INDEX "i
@ask head" ON station (lower(code)) WHERE code <> '@done 1';
CREATE VIRTUAL TABLE note USING fts5 (body);
INSERT INTO station (id, code) VALUES (1, 'S1'), (2, 'S2');
INSERT INTO "ä 水 🌊 \ '" VALUES (1, 'a'), (7, 'b');
INSERT INTO "@done 3" DEFAULT VALUES;
