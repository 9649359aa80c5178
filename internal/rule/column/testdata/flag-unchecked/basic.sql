-- not mysql: no check is proposed: how the server writes one back was not seen
-- probe
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  is_remote integer NOT NULL, -- want: column/flag-unchecked "0 or 1"
  active char(1),             -- want: column/flag-unchecked "N or Y"
  sealed_flag char(1) CHECK (sealed_flag IN ('Y', 'N')),
  island integer, history char(1),
  depth integer
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40) SELECT i, i % 2, CASE WHEN i % 3 = 0 THEN 'Y' ELSE 'N' END, 'Y', i, 'x', i FROM n;
