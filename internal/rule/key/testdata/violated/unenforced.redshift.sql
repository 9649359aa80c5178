-- probe
-- A key that nothing keeps, and that the data breaks.
CREATE TABLE station (id integer ENCODE az64 NOT NULL, code varchar(20) ENCODE lzo NOT NULL,
  CONSTRAINT station_pkey PRIMARY KEY (id)) DISTSTYLE ALL; -- want: key/violated (no fix)
INSERT INTO station VALUES (1, 'north'), (2, 'south'), (2, 'west');
VACUUM;
ANALYZE;
