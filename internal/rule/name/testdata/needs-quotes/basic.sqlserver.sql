CREATE TABLE level (id integer NOT NULL CONSTRAINT level_pk PRIMARY KEY,
  [height in mm] integer, -- want: name/needs-quotes "has to be quoted" (no fix)
  [2nd] integer, -- want: name/needs-quotes (no fix)
  plain_2 integer, Capital integer);
