-- The first column of the order compressed, and not.
CREATE TABLE reading (taken_on date ENCODE az64 NOT NULL, CONSTRAINT reading_pkey PRIMARY KEY (taken_on)) -- want: sort/leading-encoded
  DISTSTYLE EVEN COMPOUND SORTKEY (taken_on);
CREATE TABLE level (taken_on date ENCODE raw NOT NULL, CONSTRAINT level_pkey PRIMARY KEY (taken_on)) DISTSTYLE EVEN COMPOUND SORTKEY (taken_on);
INSERT INTO reading VALUES ('2024-01-01');
VACUUM;
ANALYZE;
