CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  created_at TIMESTAMP NOT NULL, -- want: column/stamp-no-default
  opened_at TIMESTAMP
);
INSERT INTO station VALUES (1, '2024-03-01 00:00:00', NULL);
