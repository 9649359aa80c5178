CREATE TABLE station (
  id integer PRIMARY KEY,
  created_at timestamptz NOT NULL, -- want: column/stamp-no-default
  changed_at timestamptz NOT NULL DEFAULT now(), opened_at timestamptz
);
INSERT INTO station VALUES (1, '2024-03-01 00:00:00', now(), NULL);
