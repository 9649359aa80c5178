CREATE TABLE "order" (id NUMBER(10) NOT NULL PRIMARY KEY, -- want: name/reserved "order is a reserved word" (no fix)
  "group" NUMBER(10), -- want: name/reserved (no fix)
  position NUMBER(10), name VARCHAR2(9 CHAR));
CREATE TABLE orders (id NUMBER(10) NOT NULL PRIMARY KEY, user_id NUMBER(10));
