CREATE TABLE station (id integer NOT NULL PRIMARY KEY, height integer, depth integer,
  CONSTRAINT height_real CHECK (height > 0), -- want: check/repeated
  CONSTRAINT height_again CHECK (height > 0),
  CHECK (depth > 0), CHECK (depth > 0 AND height > 1));
INSERT INTO station VALUES (1, 5, 5);
