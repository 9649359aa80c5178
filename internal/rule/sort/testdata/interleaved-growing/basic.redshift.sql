-- An interleaved order with a day in it, and one without.
CREATE TABLE reading (station_id integer ENCODE az64 NOT NULL, taken_on date ENCODE raw NOT NULL, CONSTRAINT reading_pkey PRIMARY KEY (station_id, taken_on)) -- want: sort/interleaved-growing
  DISTSTYLE EVEN INTERLEAVED SORTKEY (station_id, taken_on);
CREATE TABLE level (station_id integer ENCODE az64 NOT NULL, kind integer ENCODE az64 NOT NULL, CONSTRAINT level_pkey PRIMARY KEY (station_id, kind)) DISTSTYLE EVEN INTERLEAVED SORTKEY (station_id, kind);
INSERT INTO reading VALUES (1, '2024-01-01'), (2, '2024-01-02');
VACUUM;
ANALYZE;
