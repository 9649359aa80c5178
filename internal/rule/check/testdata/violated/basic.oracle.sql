-- probe
CREATE TABLE depth (id NUMBER(10) PRIMARY KEY, mm NUMBER(10), q NUMBER(10));
INSERT INTO depth VALUES (1, 1, 1); INSERT INTO depth VALUES (2, 2, 1); INSERT INTO depth VALUES (3, 3, 1); INSERT INTO depth VALUES (4, 4, 1); INSERT INTO depth VALUES (5, 5, 1);
ALTER TABLE depth ADD CONSTRAINT level_low CHECK (mm>(3)) ENABLE NOVALIDATE; -- want: check/violated "3 rows break level_low: id 1, mm 1; id 2, mm 2" (no fix)
ALTER TABLE depth ADD CONSTRAINT level_q CHECK (q=(1)) ENABLE NOVALIDATE; -- want: check/not-validated
