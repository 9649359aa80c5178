-- probe
-- no example
-- What the values show, whatever the name: words in small letters, of which some may be two, and
-- no names of people, nor what is nothing but phrases.
CREATE TABLE entry (id NUMBER(10) NOT NULL PRIMARY KEY,
  weather VARCHAR2(20 CHAR) NOT NULL, -- want: column/code-unchecked "calm, rough, storm"
  cooled VARCHAR2(20 CHAR) NOT NULL, -- want: column/code-unchecked "dry ice, steam"
  warden VARCHAR2(20 CHAR) NOT NULL,
  spoke VARCHAR2(20 CHAR) NOT NULL,
  remark VARCHAR2(20 CHAR) NOT NULL UNIQUE);
INSERT INTO entry WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200)
  SELECT i, CASE i % 3 WHEN 0 THEN 'calm' WHEN 1 THEN 'rough' ELSE 'storm' END, CASE i % 2 WHEN 0 THEN 'dry ice' ELSE 'steam' END,
    CASE i % 3 WHEN 0 THEN 'Hella' WHEN 1 THEN 'Marit' ELSE 'Sunniva' END, CASE i % 2 WHEN 0 THEN 'all is well' ELSE 'not so good' END, CAST(i AS CHAR(5)) FROM n;
