CREATE TABLE "order" (id integer NOT NULL PRIMARY KEY, -- want: name/reserved "order is a reserved word" (no fix)
  "group" integer, -- want: name/reserved (no fix)
  position integer, name varchar(9));
CREATE TABLE orders (id integer NOT NULL PRIMARY KEY, user_id integer);
