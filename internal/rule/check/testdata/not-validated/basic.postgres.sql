CREATE TABLE level (id integer PRIMARY KEY, mm integer, CONSTRAINT level_top CHECK (mm < 9000));
ALTER TABLE level ADD CONSTRAINT level_low CHECK (mm > -9000) NOT VALID; -- want: check/not-validated
