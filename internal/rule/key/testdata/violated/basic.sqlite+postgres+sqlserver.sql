-- probe
CREATE TABLE station (
  id integer NOT NULL PRIMARY KEY,
  station_code varchar(20) NOT NULL
);
INSERT INTO station WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) SELECT i, 'S' || i FROM n;
INSERT INTO station VALUES (900, 'S17');
