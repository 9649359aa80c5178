-- not mysql: the stand-in reads no such name
-- probe
CREATE TABLE `odd ``table'` ( -- want: key/none
  `is_a ``b' \x` char(1) NOT NULL DEFAULT '''' COMMENT 'a ''b'' \\ c', -- want: column/flag-unchecked
  `a;b_status` varchar(9) NOT NULL, -- want: column/code-unchecked
  `no;` float(7,2), -- want: column/obsolete-type
  CONSTRAINT `ck;``2` CHECK (`no;` > 0), CONSTRAINT `ck;``3` CHECK (`no;` > 0) -- want: check/repeated
);
INSERT INTO `odd ``table'` WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT CASE WHEN i % 2 = 0 THEN 'Y' ELSE 'N' END, CASE i % 3 WHEN 0 THEN 'it''s' WHEN 1 THEN 'b\\c' ELSE 'ü"x' END, 1.5 FROM n;
