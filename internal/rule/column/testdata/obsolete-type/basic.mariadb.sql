-- not mysql: the stand-in forgets the digits of a type
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  depth float(7,2),     -- want: column/obsolete-type
  no int(5) ZEROFILL    -- want: column/obsolete-type (no fix)
);
INSERT INTO station VALUES (1, 1.25, 7), (2, NULL, NULL);
