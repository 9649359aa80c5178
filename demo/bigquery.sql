-- Saltmere: a made-up agency that runs tide gauges along a made-up coast.
-- The demo warehouse, for a (simulated) project of BigQuery, with faults planted among sound structures.

CREATE TABLE {schema}.coast_section (
  code STRING(60) NOT NULL,
  name STRING(60) NOT NULL,
  length_km FLOAT64 NOT NULL,
  PRIMARY KEY (code) NOT ENFORCED
) OPTIONS (description='Stretches of the coast, from north to south');

CREATE TABLE {schema}.keeper (
  id INT64 NOT NULL,
  badge STRING(60) NOT NULL,
  name STRING(60) NOT NULL,
  phone STRING(60),
  PRIMARY KEY (id) NOT ENFORCED
);

CREATE TABLE {schema}.gauge_model (
  id INT64 NOT NULL,
  maker STRING(60) NOT NULL,
  name STRING(60) NOT NULL,
  resolution_mm FLOAT64 NOT NULL,
  range_mm INT64 NOT NULL,
  PRIMARY KEY (id) NOT ENFORCED
);

-- fault: amounts of money in floating point; refers to gauge_model, and nothing says so
CREATE TABLE {schema}.spare_part (
  id INT64 NOT NULL,
  part_number STRING(60) NOT NULL,
  name STRING(60) NOT NULL,
  gauge_model_id INT64,
  price FLOAT64,
  PRIMARY KEY (id) NOT ENFORCED
);

CREATE TABLE {schema}.station (
  id INT64 NOT NULL,
  code STRING(60) NOT NULL,
  name STRING(60) NOT NULL,
  section_code STRING(60) NOT NULL,
  latitude FLOAT64 NOT NULL,
  longitude FLOAT64 NOT NULL,
  opened_on DATE NOT NULL,
  closed_on DATE,
  replaced_by_station_id INT64,
  last_visit_on DATE,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT station_section_code_fkey FOREIGN KEY (section_code) REFERENCES {schema}.coast_section (code) NOT ENFORCED
);

CREATE TABLE {schema}.datum_level (
  station_id INT64 NOT NULL,
  kind STRING(60) NOT NULL,
  height_mm INT64 NOT NULL,
  measured_on DATE NOT NULL,
  PRIMARY KEY (station_id, kind) NOT ENFORCED,
  CONSTRAINT datum_level_station_id_fkey FOREIGN KEY (station_id) REFERENCES {schema}.station (id) NOT ENFORCED
);

CREATE TABLE {schema}.gauge (
  id INT64 NOT NULL,
  serial_number STRING(60) NOT NULL,
  model_id INT64 NOT NULL,
  station_id INT64 NOT NULL,
  installed_on DATE NOT NULL,
  removed_on DATE,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT gauge_model_id_fkey FOREIGN KEY (model_id) REFERENCES {schema}.gauge_model (id) NOT ENFORCED,
  CONSTRAINT gauge_station_id_fkey FOREIGN KEY (station_id) REFERENCES {schema}.station (id) NOT ENFORCED
);

-- fault: the largest table is neither partitioned nor clustered
CREATE TABLE {schema}.reading (
  id INT64 NOT NULL,
  gauge_id INT64 NOT NULL,
  taken_at TIMESTAMP NOT NULL,
  level_mm INT64 NOT NULL,
  quality INT64 DEFAULT 0 NOT NULL,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT reading_gauge_id_fkey FOREIGN KEY (gauge_id) REFERENCES {schema}.gauge (id) NOT ENFORCED
);

-- fault: the key is not unique: a reading has several flags
CREATE TABLE {schema}.reading_flag (
  reading_id INT64 NOT NULL,
  flag STRING(60) NOT NULL,
  set_by INT64,
  set_at TIMESTAMP NOT NULL,
  PRIMARY KEY (reading_id) NOT ENFORCED,
  CONSTRAINT reading_flag_reading_id_fkey FOREIGN KEY (reading_id) REFERENCES {schema}.reading (id) NOT ENFORCED,
  CONSTRAINT reading_flag_set_by_fkey FOREIGN KEY (set_by) REFERENCES {schema}.keeper (id) NOT ENFORCED
);

-- fault: days kept as text
CREATE TABLE {schema}.calibration (
  id INT64 NOT NULL,
  gauge_id INT64 NOT NULL,
  done_on STRING(10) NOT NULL,
  offset_mm FLOAT64 NOT NULL,
  done_by INT64,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT calibration_gauge_id_fkey FOREIGN KEY (gauge_id) REFERENCES {schema}.gauge (id) NOT ENFORCED,
  CONSTRAINT calibration_done_by_fkey FOREIGN KEY (done_by) REFERENCES {schema}.keeper (id) NOT ENFORCED
);

CREATE TABLE {schema}.station_keeper (
  station_id INT64 NOT NULL,
  keeper_id INT64 NOT NULL,
  since DATE NOT NULL,
  until DATE,
  PRIMARY KEY (station_id, keeper_id, since) NOT ENFORCED,
  CONSTRAINT station_keeper_station_id_fkey FOREIGN KEY (station_id) REFERENCES {schema}.station (id) NOT ENFORCED,
  CONSTRAINT station_keeper_keeper_id_fkey FOREIGN KEY (keeper_id) REFERENCES {schema}.keeper (id) NOT ENFORCED
);

CREATE TABLE {schema}.visit (
  id INT64 NOT NULL,
  station_id INT64 NOT NULL,
  keeper_id INT64 NOT NULL,
  calibration_id INT64,
  visited_on DATE NOT NULL,
  note STRING(60),
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT visit_station_id_fkey FOREIGN KEY (station_id) REFERENCES {schema}.station (id) NOT ENFORCED,
  CONSTRAINT visit_keeper_id_fkey FOREIGN KEY (keeper_id) REFERENCES {schema}.keeper (id) NOT ENFORCED,
  CONSTRAINT visit_calibration_id_fkey FOREIGN KEY (calibration_id) REFERENCES {schema}.calibration (id) NOT ENFORCED
)
PARTITION BY DATE_TRUNC(visited_on, MONTH)
CLUSTER BY station_id, keeper_id;

CREATE TABLE {schema}.visit_task (
  visit_id INT64 NOT NULL,
  position INT64 NOT NULL,
  what STRING(60) NOT NULL,
  part_id INT64,
  minutes INT64,
  PRIMARY KEY (visit_id, position) NOT ENFORCED,
  CONSTRAINT visit_task_visit_id_fkey FOREIGN KEY (visit_id) REFERENCES {schema}.visit (id) NOT ENFORCED,
  CONSTRAINT visit_task_part_id_fkey FOREIGN KEY (part_id) REFERENCES {schema}.spare_part (id) NOT ENFORCED
);

CREATE TABLE {schema}.part_stock (
  part_id INT64 NOT NULL,
  store STRING(60) NOT NULL,
  pieces INT64 NOT NULL,
  PRIMARY KEY (part_id, store) NOT ENFORCED,
  CONSTRAINT part_stock_part_id_fkey FOREIGN KEY (part_id) REFERENCES {schema}.spare_part (id) NOT ENFORCED
);

-- fault: a partition for every hour, most of a few rows, and any query may read them all
CREATE TABLE {schema}.tide_table (
  station_code STRING(60) NOT NULL,
  predicted_at TIMESTAMP NOT NULL,
  kind STRING(60) NOT NULL,
  level_mm INT64 NOT NULL,
  PRIMARY KEY (station_code, predicted_at) NOT ENFORCED
)
PARTITION BY TIMESTAMP_TRUNC(predicted_at, HOUR)
CLUSTER BY station_code;

CREATE TABLE {schema}.storm_alert (
  id INT64 NOT NULL,
  issued_at TIMESTAMP NOT NULL,
  level STRING(60) NOT NULL,
  text STRING(200) NOT NULL,
  PRIMARY KEY (id) NOT ENFORCED
);

CREATE TABLE {schema}.alert_station (
  id INT64 NOT NULL,
  alert_id INT64 NOT NULL,
  station_id INT64 NOT NULL,
  created_at TIMESTAMP DEFAULT CURRENT_TIMESTAMP() NOT NULL,
  PRIMARY KEY (id) NOT ENFORCED,
  CONSTRAINT alert_station_alert_id_fkey FOREIGN KEY (alert_id) REFERENCES {schema}.storm_alert (id) NOT ENFORCED,
  CONSTRAINT alert_station_station_id_fkey FOREIGN KEY (station_id) REFERENCES {schema}.station (id) NOT ENFORCED
);

CREATE TABLE {schema}.feed_subscriber (
  id INT64 NOT NULL,
  name STRING(60) NOT NULL,
  address STRING(60) NOT NULL,
  active INT64 DEFAULT 1 NOT NULL,
  PRIMARY KEY (id) NOT ENFORCED
);

-- fault: no key; a foreign key that the data breaks
CREATE TABLE {schema}.feed_delivery (
  subscriber_id INT64 NOT NULL,
  alert_id INT64 NOT NULL,
  sent_at TIMESTAMP NOT NULL,
  accepted INT64,
  CONSTRAINT feed_delivery_subscriber_id_fkey FOREIGN KEY (subscriber_id) REFERENCES {schema}.feed_subscriber (id) NOT ENFORCED
)
PARTITION BY DATE(sent_at);

-- What the surveyors bring back: a position of two numbers, and a list of what they measured.
CREATE TABLE {schema}.station_survey (
  station_id INT64 NOT NULL,
  surveyed_on DATE NOT NULL,
  position STRUCT<latitude FLOAT64 OPTIONS(description='degrees north'), longitude FLOAT64 OPTIONS(description='degrees east')>,
  marks ARRAY<STRUCT<name STRING, height_mm INT64>>,
  PRIMARY KEY (station_id, surveyed_on) NOT ENFORCED
) OPTIONS (description='Levelling of the stations');

CREATE VIEW {schema}.latest_level AS
SELECT g.station_id, max(r.taken_at) AS taken_at FROM {schema}.reading r JOIN {schema}.gauge g ON g.id = r.gauge_id GROUP BY g.station_id;
