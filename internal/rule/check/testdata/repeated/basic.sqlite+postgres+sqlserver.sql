CREATE TABLE level (id integer NOT NULL PRIMARY KEY, mm integer, q integer,
  CONSTRAINT level_low CHECK (mm > 3),
  CONSTRAINT level_more CHECK (mm > 3), -- want: check/repeated
  CONSTRAINT level_other CHECK (q > 3)
);
