CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  status varchar(5) NOT NULL DEFAULT 'x' CHECK (status IN ('a', 'b')), -- want: column/default-refused
  grade integer DEFAULT 0 CHECK (grade > 0),                            -- want: column/default-refused
  kind varchar(5) DEFAULT 'a' CHECK (kind IN ('a', 'b'))
);
