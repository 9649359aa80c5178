-- Five columns, and four.
CREATE TABLE reading (a integer ENCODE raw NOT NULL, b integer ENCODE az64 NOT NULL, c integer ENCODE az64 NOT NULL, d integer ENCODE az64 NOT NULL, e integer ENCODE az64 NOT NULL, CONSTRAINT reading_pkey PRIMARY KEY (a)) -- want: sort/too-many
  DISTSTYLE EVEN COMPOUND SORTKEY (a, b, c, d, e);
CREATE TABLE level (a integer ENCODE raw NOT NULL, b integer ENCODE az64 NOT NULL, c integer ENCODE az64 NOT NULL, d integer ENCODE az64 NOT NULL, CONSTRAINT level_pkey PRIMARY KEY (a)) DISTSTYLE EVEN COMPOUND SORTKEY (a, b, c, d);
INSERT INTO reading VALUES (1, 2, 3, 4, 5);
VACUUM;
ANALYZE;
