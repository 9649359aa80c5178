CREATE TABLE station (
  id NUMBER(10) PRIMARY KEY,
  created_at TIMESTAMP(0) WITH TIME ZONE NOT NULL, -- want: column/stamp-no-default
  changed_at TIMESTAMP(0) WITH TIME ZONE DEFAULT SYSTIMESTAMP NOT NULL, opened_at TIMESTAMP(0) WITH TIME ZONE
);
INSERT INTO station (id, created_at, changed_at, opened_at) VALUES (1, TIMESTAMP '2024-03-01 00:00:00', TIMESTAMP '2024-03-01 00:00:00', NULL);
