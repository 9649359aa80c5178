-- What SQLite takes unseen, and refuses to follow.
CREATE TABLE station (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE);
CREATE TABLE tide (place TEXT NOT NULL, height REAL NOT NULL); -- want: key/none (no fix)
CREATE TABLE day (station INTEGER NOT NULL, day TEXT NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE visit (
  id INTEGER PRIMARY KEY,
  code TEXT REFERENCES station (code),   -- want: fk/target-not-key "code of station, which is not there" (no fix)
  tide_no INTEGER REFERENCES tide,       -- want: fk/target-not-key "tide, which has no primary key" (no fix)
  day_no INTEGER REFERENCES day,         -- want: fk/target-not-key "day, whose key is .station, day." (no fix)
  station_id INTEGER REFERENCES station, note TEXT, other TEXT
);
CREATE INDEX v1 ON visit (code);
CREATE INDEX v2 ON visit (tide_no);
CREATE INDEX v3 ON visit (day_no);
CREATE INDEX v4 ON visit (station_id);
