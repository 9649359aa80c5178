CREATE TABLE depth (id NUMBER(10) NOT NULL PRIMARY KEY, mm NUMBER(10), q NUMBER(10),
  CONSTRAINT level_there CHECK (mm IS NOT NULL), -- want: check/as-not-null
  CONSTRAINT level_one CHECK (mm IS NOT NULL OR q IS NOT NULL)
);
