-- probe
CREATE TABLE saltmere.digit (d INT64 NOT NULL, PRIMARY KEY (d) NOT ENFORCED);
INSERT INTO saltmere.digit (d) VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9);
CREATE TABLE saltmere.calibration (
  id INT64 NOT NULL,
  done_on STRING(10), -- want: column/date-in-text "all of 100 values" (no fix)
  note STRING,
  seen STRUCT<on_day STRING>, /* seen.on_day */ -- want: column/date-in-text "all of 100 values in seen.on_day" (no fix)
  PRIMARY KEY (id) NOT ENFORCED);
INSERT INTO saltmere.calibration (id, done_on, note, seen) SELECT a.d + 10 * b.d, '2026-01-31', 'fair', STRUCT('2026-02-01' AS on_day) FROM saltmere.digit a, saltmere.digit b;
