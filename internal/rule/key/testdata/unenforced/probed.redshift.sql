-- probe
-- A key that the data keeps is not reported.
CREATE TABLE station (id integer ENCODE az64 NOT NULL, code varchar(20) ENCODE lzo NOT NULL, CONSTRAINT station_pkey PRIMARY KEY (id)) DISTSTYLE ALL;
INSERT INTO station VALUES (1, 'north'), (2, 'south');
VACUUM;
ANALYZE;
