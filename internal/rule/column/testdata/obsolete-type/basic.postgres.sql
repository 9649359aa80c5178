CREATE TABLE part (
  id integer PRIMARY KEY,
  price money,           -- want: column/obsolete-type
  at time with time zone -- want: column/obsolete-type (no fix)
);
INSERT INTO part VALUES (1, 12.34, '12:00+02'), (2, NULL, NULL);
