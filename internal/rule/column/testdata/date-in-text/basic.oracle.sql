-- probe
CREATE TABLE visit (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  visit_date VARCHAR2(10 CHAR), -- want: column/date-in-text "all of 30 values" (no fix)
  begun CHAR(8),
  date_format VARCHAR2(10 CHAR),
  last_seen VARCHAR2(20 CHAR), what VARCHAR2(20 CHAR), seat VARCHAR2(9 CHAR)
);
INSERT INTO visit WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 30) SELECT i, '2024-03-01', '20240301', 'yyyy', 'spring', 'x', 'y' FROM n;
