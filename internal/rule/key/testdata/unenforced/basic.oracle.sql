CREATE TABLE depth (id NUMBER(10) PRIMARY KEY, mm NUMBER(10), CONSTRAINT level_low CHECK (mm>(0))); -- want: key/unenforced "level_low" (warning)
INSERT INTO depth VALUES (1, 5);
CREATE TABLE tally (id NUMBER(10) PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL, CONSTRAINT tally_code UNIQUE (code)); -- want: key/unenforced "tally_code" (no fix) (warning)
INSERT INTO tally VALUES (1, 'a');
ALTER TABLE tally DISABLE CONSTRAINT tally_code;
ALTER TABLE depth DISABLE CONSTRAINT level_low;
-- choose key/unenforced enforce
