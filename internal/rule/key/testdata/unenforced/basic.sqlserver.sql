CREATE TABLE level (id integer PRIMARY KEY, mm integer, CONSTRAINT level_low CHECK ([mm]>(0))); -- want: key/unenforced "level_low" (warning)
INSERT INTO level VALUES (1, 5);
ALTER TABLE level NOCHECK CONSTRAINT level_low;
-- choose key/unenforced enforce
