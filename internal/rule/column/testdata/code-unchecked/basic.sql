-- probe
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  status varchar(10) NOT NULL, -- want: column/code-unchecked "open, shut"
  kind varchar(10) NOT NULL CHECK (kind IN ('a', 'b')),
  name varchar(20) NOT NULL
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT i, CASE WHEN i % 3 = 0 THEN 'open' ELSE 'shut' END, 'a', 'x' FROM n;
