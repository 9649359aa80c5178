-- A distribution column that may be null; one that may not.
CREATE TABLE visit (id integer ENCODE az64 NOT NULL, calibration_id integer ENCODE az64, CONSTRAINT visit_pkey PRIMARY KEY (id)) -- want: distribution/nullable
  DISTSTYLE KEY DISTKEY (calibration_id);
CREATE TABLE level (id integer ENCODE az64 NOT NULL, CONSTRAINT level_pkey PRIMARY KEY (id)) DISTSTYLE KEY DISTKEY (id);
INSERT INTO visit VALUES (1, 7), (2, NULL);
VACUUM;
ANALYZE;
