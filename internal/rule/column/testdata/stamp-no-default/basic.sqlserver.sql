CREATE TABLE station (
  id integer PRIMARY KEY,
  created_at datetimeoffset(3) NOT NULL, -- want: column/stamp-no-default
  changed_at datetimeoffset(3) NOT NULL CONSTRAINT df_changed DEFAULT (sysdatetimeoffset()), opened_at datetimeoffset(3)
);
INSERT INTO station (id, created_at, changed_at, opened_at) VALUES (1, '2024-03-01 00:00:00 +00:00', '2024-03-01 00:00:00 +00:00', NULL);
