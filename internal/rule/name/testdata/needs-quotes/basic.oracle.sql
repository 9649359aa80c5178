CREATE TABLE level_ (id NUMBER(10) NOT NULL CONSTRAINT level_pk PRIMARY KEY,
  "HEIGHT IN MM" NUMBER(5), -- want: name/needs-quotes "has to be quoted" (no fix)
  "2ND" NUMBER(5), -- want: name/needs-quotes (no fix)
  plain_2 NUMBER(5));
