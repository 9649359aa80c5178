CREATE TABLE a (id INTEGER PRIMARY KEY, station_mark TEXT NOT NULL);
CREATE TABLE b (id INTEGER PRIMARY KEY, station_mark TEXT NOT NULL);
CREATE TABLE c (id INTEGER PRIMARY KEY, station_mark TEXT NOT NULL);
CREATE TABLE d (
  id INTEGER PRIMARY KEY,
  station_mark INTEGER NOT NULL -- want: column/type-varies (no fix)
);
