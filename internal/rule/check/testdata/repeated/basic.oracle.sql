CREATE TABLE depth (id NUMBER(10) NOT NULL PRIMARY KEY, mm NUMBER(10), q NUMBER(10),
  CONSTRAINT level_low CHECK (mm > 3),
  CONSTRAINT level_more CHECK (mm > 3), -- want: check/repeated
  CONSTRAINT level_other CHECK (q > 3)
);
