CREATE TABLE keeper (id INTEGER PRIMARY KEY, name TEXT NOT NULL); -- want: key/generated-only (no fix)
CREATE TABLE visit (id INTEGER PRIMARY KEY, keeper_id INTEGER NOT NULL REFERENCES keeper (id), note TEXT NOT NULL);
CREATE INDEX visit_keeper ON visit (keeper_id);
