-- no example
-- Of several unique keys, what other tables refer to becomes the primary key, and else numbers before texts.
CREATE TABLE pier ( -- want: key/none "unique key \((?i:code)\)"
  pier_no integer NOT NULL UNIQUE,
  code varchar(40) NOT NULL UNIQUE
);
CREATE TABLE berth (
  id integer NOT NULL PRIMARY KEY,
  pier_code varchar(40) NOT NULL UNIQUE REFERENCES pier (code)
);
CREATE TABLE buoy ( -- want: key/none "unique key \((?i:pier_no)\)"
  code varchar(40) NOT NULL UNIQUE,
  pier_no integer NOT NULL UNIQUE
);
