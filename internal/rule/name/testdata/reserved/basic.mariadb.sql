CREATE TABLE `user` (id integer NOT NULL PRIMARY KEY, -- want: name/reserved (no fix)
  position integer, name varchar(9));
