-- probe
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY,
  visit_date varchar(10), -- want: column/date-in-text "all of 30 values" (no fix)
  begun char(8),
  date_format varchar(10),
  last_seen varchar(20), what varchar(20), seat varchar(9)
);
INSERT INTO visit WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 30) SELECT i, '2024-03-01', '20240301', 'yyyy', 'spring', 'x', 'y' FROM n;
