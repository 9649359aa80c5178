CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  code STRING, -- want: column/obsolete-type
  name TEXT
);
INSERT INTO station VALUES (1, 'a7', 'x'), (2, NULL, NULL);
