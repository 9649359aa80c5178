CREATE TABLE station (uuid TEXT NOT NULL PRIMARY KEY, code TEXT NOT NULL) WITHOUT ROWID; -- want: key/random-clustered (no fix)
CREATE TABLE gauge (uuid TEXT NOT NULL PRIMARY KEY, code TEXT NOT NULL);
