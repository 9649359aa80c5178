-- Saltmere: a made-up agency that runs tide gauges along a made-up coast.
-- The demo warehouse, for a (simulated) Redshift cluster, with faults planted among sound structures.

CREATE TABLE coast_section (
  code varchar(60) ENCODE lzo NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  length_km double precision NOT NULL,
  CONSTRAINT coast_section_code_key UNIQUE (code)
)
DISTSTYLE ALL;

CREATE TABLE keeper (
  id bigint ENCODE az64 NOT NULL,
  badge varchar(60) ENCODE lzo NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  phone varchar(60) ENCODE lzo,
  CONSTRAINT keeper_pkey PRIMARY KEY (id),
  CONSTRAINT keeper_badge_key UNIQUE (badge)
)
DISTSTYLE ALL;

CREATE TABLE gauge_model (
  id bigint ENCODE az64 NOT NULL,
  maker varchar(60) ENCODE lzo NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  resolution_mm double precision NOT NULL,
  range_mm integer ENCODE az64 NOT NULL,
  CONSTRAINT gauge_model_pkey PRIMARY KEY (id),
  CONSTRAINT gauge_model_maker_name_key UNIQUE (maker, name)
)
DISTSTYLE ALL;

CREATE TABLE spare_part (
  id bigint ENCODE az64 NOT NULL,
  part_number varchar(60) ENCODE lzo NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  gauge_model_id bigint ENCODE az64,
  price double precision,
  CONSTRAINT spare_part_pkey PRIMARY KEY (id)
)
DISTSTYLE EVEN;

-- fault: small, and joined by all, and not on every node
CREATE TABLE station (
  id bigint ENCODE az64 NOT NULL,
  code varchar(60) ENCODE lzo NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  section_code varchar(60) ENCODE lzo NOT NULL,
  latitude double precision NOT NULL,
  longitude double precision NOT NULL,
  opened_on date ENCODE az64 NOT NULL,
  closed_on date ENCODE az64,
  replaced_by_station_id bigint ENCODE az64,
  last_visit_on date ENCODE az64,
  CONSTRAINT station_pkey PRIMARY KEY (id),
  CONSTRAINT station_code_key UNIQUE (code)
)
DISTSTYLE EVEN;

-- fault: two values for all slices
CREATE TABLE datum_level (
  station_id bigint ENCODE az64 NOT NULL,
  kind varchar(60) ENCODE lzo NOT NULL,
  height_mm integer ENCODE az64 NOT NULL,
  measured_on date ENCODE az64 NOT NULL,
  CONSTRAINT datum_level_pkey PRIMARY KEY (station_id, kind)
)
DISTSTYLE KEY DISTKEY (kind);

CREATE TABLE gauge (
  id bigint ENCODE az64 NOT NULL,
  serial_number varchar(60) ENCODE lzo NOT NULL,
  model_id bigint ENCODE az64 NOT NULL,
  station_id bigint ENCODE az64 NOT NULL,
  installed_on date ENCODE az64 NOT NULL,
  removed_on date ENCODE az64,
  CONSTRAINT gauge_pkey PRIMARY KEY (id)
)
DISTSTYLE ALL;

-- fault: spread by a column of three values, most of them one; in no order; not compressed
CREATE TABLE reading (
  id bigint ENCODE raw NOT NULL,
  gauge_id bigint ENCODE raw NOT NULL,
  taken_at timestamp ENCODE raw NOT NULL,
  level_mm integer ENCODE raw NOT NULL,
  quality integer ENCODE raw DEFAULT 0 NOT NULL,
  CONSTRAINT reading_pkey PRIMARY KEY (id),
  CONSTRAINT reading_gauge_id_taken_at_key UNIQUE (gauge_id, taken_at)
)
DISTSTYLE KEY DISTKEY (quality);

CREATE TABLE reading_flag (
  reading_id bigint ENCODE az64 NOT NULL,
  flag varchar(60) ENCODE lzo NOT NULL,
  set_by bigint ENCODE az64,
  set_at timestamp ENCODE raw NOT NULL,
  CONSTRAINT reading_flag_pkey PRIMARY KEY (reading_id, flag)
)
DISTSTYLE KEY DISTKEY (reading_id)
COMPOUND SORTKEY (set_at);

-- fault: what it is sorted by is compressed
CREATE TABLE calibration (
  id bigint ENCODE az64 NOT NULL,
  gauge_id integer ENCODE az64 NOT NULL,
  done_on date ENCODE az64 NOT NULL,
  offset_mm double precision NOT NULL,
  done_by bigint ENCODE az64,
  CONSTRAINT calibration_pkey PRIMARY KEY (id)
)
DISTSTYLE EVEN
COMPOUND SORTKEY (done_on);

-- fault: spread by a column that may be null
CREATE TABLE station_keeper (
  station_id bigint ENCODE az64 NOT NULL,
  keeper_id bigint ENCODE az64 NOT NULL,
  since date ENCODE az64 NOT NULL,
  until date ENCODE az64,
  CONSTRAINT station_keeper_pkey PRIMARY KEY (station_id, keeper_id, since)
)
DISTSTYLE KEY DISTKEY (until);

-- fault: nulls land together; sorted by five columns
CREATE TABLE visit (
  id bigint ENCODE az64 NOT NULL,
  station_id bigint ENCODE az64 NOT NULL,
  keeper_id bigint ENCODE az64 NOT NULL,
  calibration_id bigint ENCODE az64,
  visited_on date ENCODE raw NOT NULL,
  note varchar(60) ENCODE lzo,
  CONSTRAINT visit_pkey PRIMARY KEY (id)
)
DISTSTYLE KEY DISTKEY (calibration_id)
COMPOUND SORTKEY (visited_on, station_id, keeper_id, id, note);

CREATE TABLE visit_task (
  visit_id bigint ENCODE az64 NOT NULL,
  position integer ENCODE az64 NOT NULL,
  what varchar(60) ENCODE lzo NOT NULL,
  part_id bigint ENCODE az64,
  minutes integer ENCODE az64,
  CONSTRAINT visit_task_pkey PRIMARY KEY (visit_id, position)
)
DISTSTYLE EVEN;

-- fault: too large for a copy on every node
CREATE TABLE part_stock (
  part_id bigint ENCODE az64 NOT NULL,
  store varchar(60) ENCODE lzo NOT NULL,
  pieces integer ENCODE az64 NOT NULL,
  CONSTRAINT part_stock_pkey PRIMARY KEY (part_id, store)
)
DISTSTYLE ALL;

-- fault: interleaved by a moment
CREATE TABLE tide_table (
  station_code varchar(60) ENCODE lzo NOT NULL,
  predicted_at timestamp ENCODE az64 NOT NULL,
  kind varchar(60) ENCODE lzo NOT NULL,
  level_mm integer ENCODE az64 NOT NULL,
  CONSTRAINT tide_table_pkey PRIMARY KEY (station_code, predicted_at)
)
DISTSTYLE KEY DISTKEY (station_code)
INTERLEAVED SORTKEY (station_code, predicted_at);

CREATE TABLE storm_alert (
  id bigint ENCODE az64 NOT NULL,
  issued_at timestamp ENCODE az64 NOT NULL,
  level varchar(60) ENCODE lzo NOT NULL,
  text varchar(200) ENCODE lzo NOT NULL,
  CONSTRAINT storm_alert_pkey PRIMARY KEY (id)
)
DISTSTYLE EVEN;

CREATE TABLE alert_station (
  id bigint ENCODE az64 NOT NULL,
  alert_id bigint ENCODE az64 NOT NULL,
  station_id bigint ENCODE az64 NOT NULL,
  created_at timestamp ENCODE az64 DEFAULT GETDATE() NOT NULL,
  CONSTRAINT alert_station_pkey PRIMARY KEY (id)
)
DISTSTYLE EVEN;

CREATE TABLE feed_subscriber (
  id bigint ENCODE az64 NOT NULL,
  name varchar(60) ENCODE lzo NOT NULL,
  address varchar(60) ENCODE lzo NOT NULL,
  active integer ENCODE az64 DEFAULT 1 NOT NULL,
  CONSTRAINT feed_subscriber_pkey PRIMARY KEY (id)
)
DISTSTYLE EVEN;

-- fault: far from the tables that it is joined with; rows out of order, rows that are gone
CREATE TABLE feed_delivery (
  subscriber_id bigint ENCODE az64 NOT NULL,
  alert_id bigint ENCODE az64 NOT NULL,
  sent_at timestamp ENCODE raw NOT NULL,
  accepted integer ENCODE az64
)
DISTSTYLE EVEN
COMPOUND SORTKEY (sent_at);

ALTER TABLE station ADD CONSTRAINT station_section_code_fkey FOREIGN KEY (section_code) REFERENCES coast_section (code);
ALTER TABLE datum_level ADD CONSTRAINT datum_level_station_id_fkey FOREIGN KEY (station_id) REFERENCES station (id);
ALTER TABLE gauge ADD CONSTRAINT gauge_model_id_fkey FOREIGN KEY (model_id) REFERENCES gauge_model (id);
ALTER TABLE gauge ADD CONSTRAINT gauge_station_id_fkey FOREIGN KEY (station_id) REFERENCES station (id);
ALTER TABLE reading ADD CONSTRAINT reading_gauge_id_fkey FOREIGN KEY (gauge_id) REFERENCES gauge (id);
ALTER TABLE reading_flag ADD CONSTRAINT reading_flag_reading_id_fkey FOREIGN KEY (reading_id) REFERENCES reading (id);
ALTER TABLE reading_flag ADD CONSTRAINT reading_flag_set_by_fkey FOREIGN KEY (set_by) REFERENCES keeper (id);
ALTER TABLE calibration ADD CONSTRAINT calibration_gauge_id_fkey FOREIGN KEY (gauge_id) REFERENCES gauge (id);
ALTER TABLE calibration ADD CONSTRAINT calibration_done_by_fkey FOREIGN KEY (done_by) REFERENCES keeper (id);
ALTER TABLE station_keeper ADD CONSTRAINT station_keeper_station_id_fkey FOREIGN KEY (station_id) REFERENCES station (id);
ALTER TABLE station_keeper ADD CONSTRAINT station_keeper_keeper_id_fkey FOREIGN KEY (keeper_id) REFERENCES keeper (id);
ALTER TABLE visit ADD CONSTRAINT visit_station_id_fkey FOREIGN KEY (station_id) REFERENCES station (id);
ALTER TABLE visit ADD CONSTRAINT visit_keeper_id_fkey FOREIGN KEY (keeper_id) REFERENCES keeper (id);
ALTER TABLE visit ADD CONSTRAINT visit_calibration_id_fkey FOREIGN KEY (calibration_id) REFERENCES calibration (id);
ALTER TABLE visit_task ADD CONSTRAINT visit_task_visit_id_fkey FOREIGN KEY (visit_id) REFERENCES visit (id);
ALTER TABLE visit_task ADD CONSTRAINT visit_task_part_id_fkey FOREIGN KEY (part_id) REFERENCES spare_part (id);
ALTER TABLE part_stock ADD CONSTRAINT part_stock_part_id_fkey FOREIGN KEY (part_id) REFERENCES spare_part (id);
ALTER TABLE alert_station ADD CONSTRAINT alert_station_alert_id_fkey FOREIGN KEY (alert_id) REFERENCES storm_alert (id);
ALTER TABLE alert_station ADD CONSTRAINT alert_station_station_id_fkey FOREIGN KEY (station_id) REFERENCES station (id);
