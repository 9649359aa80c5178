CREATE TABLE level (id integer NOT NULL PRIMARY KEY, mm integer, q integer,
  CONSTRAINT level_there CHECK (mm IS NOT NULL), -- want: check/as-not-null
  CONSTRAINT level_one CHECK (mm IS NOT NULL OR q IS NOT NULL)
);
