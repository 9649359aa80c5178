-- probe
CREATE SCHEMA "tide; data";
CREATE TABLE "tide; data"."odd ""table'" ( -- want: key/none
  "is_a ""b' \x" char(1) NOT NULL, -- want: column/flag-unchecked
  "a;b_status" varchar(9) NOT NULL, -- want: column/code-unchecked
  "Created_At" timestamptz NOT NULL, "price'" money, -- want: column/obsolete-type
  "seq;" serial, -- want: column/generated-legacy
  CONSTRAINT "ck;""1" CHECK ("price'" IS NOT NULL), -- want: check/as-not-null
  CONSTRAINT "ck;""2" CHECK ("seq;" > 0), CONSTRAINT "ck;""3" CHECK ("seq;" > 0) -- want: check/repeated
);
INSERT INTO "tide; data"."odd ""table'" SELECT CASE WHEN i % 2 = 0 THEN 'Y' ELSE 'N' END, (ARRAY['it''s', 'b\c', 'ü"x'])[1 + i % 3], now(), 1.5 FROM generate_series(1, 150) i;
