CREATE TABLE depth (id NUMBER(10) PRIMARY KEY, mm NUMBER(10), CONSTRAINT level_low CHECK (mm>(0))); -- want: key/unenforced "level_low" (warning)
INSERT INTO depth VALUES (1, 5);
ALTER TABLE depth DISABLE CONSTRAINT level_low;
-- choose key/unenforced enforce
