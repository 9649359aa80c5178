-- The data is known to break it: nothing is offered.
-- probe
CREATE TABLE station (
  code TEXT PRIMARY KEY, -- want: key/nullable-part "is null in 2 rows" (no fix)
  name TEXT
);
INSERT INTO station VALUES ('a', 'b'), (NULL, 'x'), (NULL, 'y');
