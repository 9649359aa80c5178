-- probe
CREATE TABLE level (id integer PRIMARY KEY, mm integer, q integer);
INSERT INTO level SELECT n, n, 1 FROM generate_series(1, 20) n;
ALTER TABLE level ADD CONSTRAINT level_low CHECK (mm > 3) NOT VALID; -- want: check/violated "3 rows break level_low: id 1, mm 1; id 2, mm 2" (no fix)
ALTER TABLE level ADD CONSTRAINT level_q CHECK (q = 1) NOT VALID; -- want: check/not-validated
