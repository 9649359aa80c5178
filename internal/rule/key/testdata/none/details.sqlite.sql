-- Rowid turned key, integers promoted, views and triggers kept, tables of modules passed over.
CREATE VIRTUAL TABLE search USING fts5 (body);
CREATE TABLE note (text TEXT, rowid TEXT);  -- want: key/none
CREATE TABLE number (n INTEGER NOT NULL UNIQUE, text TEXT);  -- want: key/none
CREATE TABLE ranked (a INT NOT NULL, b TEXT NOT NULL COLLATE NOCASE, UNIQUE (a, b));  -- want: key/none
CREATE VIEW notes AS SELECT text FROM note;
CREATE TRIGGER note_in AFTER INSERT ON note BEGIN UPDATE number SET text = NEW.text; END;
INSERT INTO number VALUES (5, 'five'), (-3, NULL);
INSERT INTO note VALUES ('x', 'y'), ('x', 'y');
DELETE FROM note WHERE _rowid_ = 1;
INSERT INTO ranked VALUES (1, 'a'), (1, 'b');
