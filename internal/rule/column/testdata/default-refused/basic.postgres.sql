CREATE TABLE station (
  id integer PRIMARY KEY,
  code varchar(3) DEFAULT 'none',                             -- want: column/default-refused
  status text NOT NULL DEFAULT 'x' CHECK (status IN ('a','b')), -- want: column/default-refused
  grade integer DEFAULT 0 CHECK (grade > 0),                   -- want: column/default-refused
  kind varchar(5) DEFAULT 'a' CHECK (kind IN ('a', 'b')),
  share numeric DEFAULT 0.5 CHECK (share BETWEEN 0 AND 1), note text DEFAULT NULL
);
