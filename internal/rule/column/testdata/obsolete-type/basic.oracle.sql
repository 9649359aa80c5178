CREATE TABLE part (
  id NUMBER(10) PRIMARY KEY,
  note LONG -- want: column/obsolete-type
);
CREATE TABLE photo (
  id NUMBER(10) PRIMARY KEY,
  picture LONG RAW, -- want: column/obsolete-type
  small BLOB, title CLOB
);
INSERT INTO part VALUES (1, 'x');
