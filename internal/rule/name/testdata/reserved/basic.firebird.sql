CREATE TABLE station (id integer NOT NULL PRIMARY KEY,
  "POSITION" integer, -- want: name/reserved (no fix)
  "YEAR" integer, -- want: name/reserved (no fix)
  place integer);
