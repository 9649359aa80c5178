CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  created_at datetime(3) NOT NULL, -- want: column/stamp-no-default
  opened_at datetime NULL
);
INSERT INTO station VALUES (1, '2024-03-01 00:00:00', NULL);
