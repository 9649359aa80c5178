-- probe
CREATE TABLE station (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  is_remote NUMBER(10) NOT NULL, -- want: column/flag-unchecked "0 or 1"
  active CHAR(1),             -- want: column/flag-unchecked "N or Y"
  sealed_flag CHAR(1) CHECK (sealed_flag IN ('Y', 'N')),
  island NUMBER(10), history CHAR(1),
  depth NUMBER(10)
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40) SELECT i, i % 2, CASE WHEN i % 3 = 0 THEN 'Y' ELSE 'N' END, 'Y', i, 'x', i FROM n;
