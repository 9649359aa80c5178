CREATE TABLE visit ( -- want: column/no-time-zone (no fix)
  id integer PRIMARY KEY, created_at timestamp, changed_at timestamptz, opens timestamp
);
