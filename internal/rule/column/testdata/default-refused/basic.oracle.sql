CREATE TABLE station (
  id NUMBER(10) PRIMARY KEY,
  code VARCHAR2(3 CHAR) DEFAULT 'none',                                               -- want: column/default-refused
  status VARCHAR2(9 CHAR) DEFAULT 'x' NOT NULL CHECK (status IN ('a','b')),          -- want: column/default-refused
  grade NUMBER(10) DEFAULT 0 CHECK (grade > 0),                                 -- want: column/default-refused
  kind VARCHAR2(5 CHAR) DEFAULT 'a' CHECK (kind IN ('a', 'b')),
  portion NUMBER(5,2) DEFAULT 0.5 CHECK (portion BETWEEN 0 AND 1), note VARCHAR2(9 CHAR) DEFAULT NULL
);
