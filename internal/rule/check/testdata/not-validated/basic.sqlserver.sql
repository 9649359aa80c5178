CREATE TABLE level (id integer PRIMARY KEY, mm integer, CONSTRAINT level_top CHECK ([mm]<(9000)));
ALTER TABLE level WITH NOCHECK ADD CONSTRAINT level_low CHECK ([mm]>(-9000)); -- want: check/not-validated
INSERT INTO level VALUES (1, 5), (2, NULL);
