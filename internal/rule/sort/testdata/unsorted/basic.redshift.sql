-- A third of the rows out of order, and none.
CREATE TABLE reading (n integer ENCODE raw NOT NULL, CONSTRAINT reading_pkey PRIMARY KEY (n)) -- want: sort/unsorted
  DISTSTYLE EVEN COMPOUND SORTKEY (n);
CREATE TABLE level (n integer ENCODE raw NOT NULL, CONSTRAINT level_pkey PRIMARY KEY (n)) DISTSTYLE EVEN COMPOUND SORTKEY (n);
INSERT INTO reading VALUES (1), (2), (3), (4);
INSERT INTO level VALUES (1);
VACUUM;
INSERT INTO reading VALUES (5), (6);
ANALYZE;
