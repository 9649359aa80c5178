-- probe
CREATE TABLE level (id integer PRIMARY KEY, mm integer, q integer);
INSERT INTO level VALUES (1, 1, 1), (2, 2, 1), (3, 3, 1), (4, 4, 1), (5, 5, 1);
ALTER TABLE level WITH NOCHECK ADD CONSTRAINT level_low CHECK ([mm]>(3)); -- want: check/violated "3 rows break level_low: id 1, mm 1; id 2, mm 2" (no fix)
ALTER TABLE level WITH NOCHECK ADD CONSTRAINT level_q CHECK ([q]=(1)); -- want: check/not-validated
