-- set name/pattern index ix_{table}_{columns}
-- set name/pattern check ck_{table}_*
-- set name/pattern column ^[a-z_]+$
CREATE TABLE gauge (
  id INTEGER PRIMARY KEY, serial INTEGER,
  no2 INTEGER,                            -- want: name/pattern (no fix)
  CONSTRAINT positive CHECK (serial > 0)  -- want: name/pattern (no fix)
);
CREATE INDEX gauge_serial ON gauge (serial); -- want: name/pattern
