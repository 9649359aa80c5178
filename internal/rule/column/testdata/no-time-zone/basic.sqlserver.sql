CREATE TABLE visit ( -- want: column/no-time-zone (no fix)
  id integer PRIMARY KEY, created_at datetime2(3), changed_at datetimeoffset(3), opens datetime2(0)
);
