CREATE TABLE visit ( -- want: column/no-time-zone (no fix)
  id NUMBER(10) PRIMARY KEY, created_at TIMESTAMP(0), changed_at TIMESTAMP(0) WITH TIME ZONE, opens TIMESTAMP(0)
);
