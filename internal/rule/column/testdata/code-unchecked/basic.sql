-- not mysql: no check is proposed: how the server writes one back was not seen
-- probe
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  status varchar(10) NOT NULL, -- want: column/code-unchecked "open, shut"
  kind varchar(10) NOT NULL CHECK (kind IN ('a', 'b')),
  name varchar(20) NOT NULL,
  role smallint NOT NULL, -- want: column/code-unchecked "7, 8, 10"
  priority smallint NOT NULL
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT i, CASE WHEN i % 3 = 0 THEN 'open' ELSE 'shut' END, 'a', 'x', CASE WHEN i % 3 = 0 THEN 7 WHEN i % 3 = 1 THEN 8 ELSE 10 END, i % 5 FROM n;
