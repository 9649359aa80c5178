-- probe
CREATE TABLE "odd ""table'" ( -- want: key/none
  "is_a ""b' \x" char(1) NOT NULL, -- want: column/flag-unchecked
  "a;b_status" varchar(9) NOT NULL, -- want: column/code-unchecked
  "no;" STRING, -- want: column/obsolete-type
  CONSTRAINT "ck;""1" CHECK ("no;" IS NOT NULL), -- want: check/as-not-null
  CONSTRAINT "ck;""2" CHECK ("no;" <> 'z'), CONSTRAINT "ck;""3" CHECK ("no;" <> 'z') -- want: check/repeated
);
INSERT INTO "odd ""table'" WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 150) SELECT CASE WHEN i % 2 = 0 THEN 'Y' ELSE 'N' END, CASE i % 3 WHEN 0 THEN 'it''s' WHEN 1 THEN 'b\c' ELSE 'ü"x' END, 'a' FROM n;
