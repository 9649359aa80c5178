-- sort saltmere.reading by station_id: copy the rows
CREATE TABLE saltmere.nexdal_reading_new (
  id INT64 NOT NULL OPTIONS (description='numbered by the gauge\'s own clock'),
  station_id INT64 NOT NULL,
  taken_at TIMESTAMP NOT NULL,
  quality INT64 DEFAULT 0,
  place STRUCT<lat FLOAT64 OPTIONS (description='degrees "north"'), lon FLOAT64>,
  marks ARRAY<STRUCT<name STRING OPTIONS (description='as it is written on the staff'), height INT64>>
)
PARTITION BY TIMESTAMP_TRUNC(taken_at, DAY)
CLUSTER BY station_id
OPTIONS (description='Levels', labels=[('team', 'tides')], partition_expiration_days=900, require_partition_filter=true);
INSERT INTO saltmere.nexdal_reading_new (id, station_id, taken_at, quality, place, marks) SELECT id, station_id, taken_at, quality, place, marks FROM (SELECT * FROM saltmere.reading WHERE taken_at IS NOT NULL OR taken_at IS NULL);
ASSERT (SELECT count(*) FROM (SELECT * FROM saltmere.nexdal_reading_new WHERE taken_at IS NOT NULL OR taken_at IS NULL)) = (SELECT count(*) FROM (SELECT * FROM saltmere.reading WHERE taken_at IS NOT NULL OR taken_at IS NULL)) AS 'rows came while the table was copied';

-- sort saltmere.reading by station_id: take its keys away
ALTER TABLE saltmere.reading_flag DROP CONSTRAINT flag_reading_fkey;
ALTER TABLE saltmere.reading DROP CONSTRAINT reading_station_fkey;
ALTER TABLE saltmere.reading DROP PRIMARY KEY;

-- sort saltmere.reading by station_id: give the copy its name
ALTER TABLE saltmere.reading RENAME TO nexdal_reading_old;
ALTER TABLE saltmere.nexdal_reading_new RENAME TO reading;

-- sort saltmere.reading by station_id: declare its keys again
ALTER TABLE saltmere.reading ADD PRIMARY KEY (id) NOT ENFORCED;
ALTER TABLE saltmere.reading ADD CONSTRAINT reading_station_fkey FOREIGN KEY (station_id) REFERENCES saltmere.station (id) NOT ENFORCED;
ALTER TABLE saltmere.reading_flag ADD CONSTRAINT flag_reading_fkey FOREIGN KEY (reading_id) REFERENCES saltmere.reading (id) NOT ENFORCED;

-- sort saltmere.reading by station_id: drop the old table
ASSERT (SELECT count(*) FROM (SELECT * FROM saltmere.reading WHERE taken_at IS NOT NULL OR taken_at IS NULL)) = (SELECT count(*) FROM (SELECT * FROM saltmere.nexdal_reading_old WHERE taken_at IS NOT NULL OR taken_at IS NULL)) AS 'the old table holds rows that the new one lacks';
DROP TABLE saltmere.nexdal_reading_old;
