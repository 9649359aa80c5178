-- A key that lets nulls in, beside those that do not: the row number itself,
-- columns that are required, a table in the order of its key.
CREATE TABLE station (
  code TEXT PRIMARY KEY, -- want: key/nullable-part "code is part of the primary key and may be null"
  name TEXT
);
INSERT INTO station VALUES ('a', 'b'), ('c', NULL);
CREATE TABLE keeper (id INTEGER PRIMARY KEY, badge TEXT UNIQUE);
CREATE TABLE visit (station TEXT NOT NULL, day TEXT NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE level (station TEXT, day TEXT, PRIMARY KEY (station, day)) WITHOUT ROWID;
