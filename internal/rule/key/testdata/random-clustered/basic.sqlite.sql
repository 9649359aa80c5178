CREATE TABLE station (uuid TEXT NOT NULL PRIMARY KEY, code TEXT NOT NULL) WITHOUT ROWID; -- want: key/random-clustered (no fix)
CREATE TABLE token (id TEXT NOT NULL PRIMARY KEY DEFAULT (lower(hex(randomblob(16)))), note TEXT NOT NULL) WITHOUT ROWID; -- want: key/random-clustered (no fix)
CREATE TABLE gauge (uuid TEXT NOT NULL PRIMARY KEY, code TEXT NOT NULL);
