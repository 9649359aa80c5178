-- probe
CREATE TABLE station (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  status VARCHAR2(10 CHAR) NOT NULL, -- want: column/code-unchecked "open, shut"
  kind VARCHAR2(10 CHAR) NOT NULL CHECK (kind IN ('a', 'b')),
  name VARCHAR2(20 CHAR) NOT NULL,
  role NUMBER(5) NOT NULL, -- want: column/code-unchecked "7, 8, 10"
  priority NUMBER(5) NOT NULL
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT i, CASE WHEN i % 3 = 0 THEN 'open' ELSE 'shut' END, 'a', 'x', CASE WHEN i % 3 = 0 THEN 7 WHEN i % 3 = 1 THEN 8 ELSE 10 END, i % 5 FROM n;
