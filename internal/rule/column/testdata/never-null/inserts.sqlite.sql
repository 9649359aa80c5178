-- probe
-- no example
-- A trigger puts rows in without the column: NOT NULL would make it fail, and with it who fires it.
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY,
  level_no integer, -- want: column/never-null (no fix)
  day_no integer, -- want: column/never-null
  kind_no integer DEFAULT 3); -- want: column/never-null
CREATE TABLE gate (id integer NOT NULL PRIMARY KEY);
CREATE TRIGGER gate_kept AFTER INSERT ON gate BEGIN
  INSERT INTO keeper (id, day_no) VALUES (1000 + NEW.id, 1);
END;
WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 120) INSERT INTO keeper SELECT i, i % 7, i % 5, i % 3 FROM n;
