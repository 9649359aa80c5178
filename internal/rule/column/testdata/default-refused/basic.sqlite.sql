CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  status TEXT NOT NULL DEFAULT 'x' CHECK (status IN ('a', 'b')), -- want: column/default-refused
  grade INTEGER DEFAULT 0 CHECK (grade > 0),                      -- want: column/default-refused
  kind TEXT DEFAULT 'a' CHECK (kind IN ('a', 'b')), note TEXT DEFAULT NULL
);
