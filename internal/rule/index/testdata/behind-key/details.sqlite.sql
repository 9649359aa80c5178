-- Collations; WITHOUT ROWID; a key that is the table's own order.
CREATE TABLE station (code TEXT PRIMARY KEY COLLATE NOCASE, n INTEGER) WITHOUT ROWID;
CREATE INDEX station_binary ON station (code COLLATE BINARY);
CREATE INDEX station_nocase ON station (code);               -- want: index/behind-key
CREATE TABLE gauge (id INTEGER PRIMARY KEY, code TEXT UNIQUE ON CONFLICT REPLACE);
CREATE INDEX "gauge; id" ON gauge (id);                      -- want: index/behind-key
CREATE INDEX gauge_code ON gauge (code);                     -- want: index/behind-key
