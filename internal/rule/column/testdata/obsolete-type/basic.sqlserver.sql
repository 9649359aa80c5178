CREATE TABLE part (
  id integer PRIMARY KEY,
  note ntext,                                                     -- want: column/obsolete-type
  remark text,                                                    -- want: column/obsolete-type
  photo image,                                                    -- want: column/obsolete-type
  made datetime NOT NULL CONSTRAINT df_made DEFAULT (getdate()),  -- want: column/obsolete-type
  seen smalldatetime                                              -- want: column/obsolete-type
);
INSERT INTO part VALUES (1, N'x', 'y', 0x01, '2026-01-02T03:04:05', '2026-01-02T03:04:00'), (2, NULL, NULL, NULL, '2026-01-02T03:04:05.333', NULL);
