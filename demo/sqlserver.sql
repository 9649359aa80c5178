-- Saltmere: a made-up agency that runs tide gauges along a made-up coast.
-- The demo database for SQL Server, made in a schema of its own, with faults planted among sound structures.

CREATE TABLE {schema}.keeper (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT keeper_pk PRIMARY KEY,
  badge nvarchar(10) NOT NULL CONSTRAINT keeper_badge_key UNIQUE,
  name nvarchar(60) NOT NULL,
  phone nvarchar(20) NULL
);

CREATE TABLE {schema}.spare_part (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT spare_part_pk PRIMARY KEY,
  part_number nvarchar(20) NOT NULL,
  name nvarchar(60) NOT NULL,
  gauge_model_id bigint NULL,
  price float NULL                                                -- fault: money in floating point
);

CREATE TABLE {schema}.coast_section (
  code nvarchar(8) NOT NULL CONSTRAINT coast_section_code_key UNIQUE,   -- fault: unique, but no primary key
  name nvarchar(60) NOT NULL,
  length_km float NOT NULL CONSTRAINT coast_section_length CHECK ([length_km]>(0))
);

CREATE TABLE {schema}.station (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT station_pk PRIMARY KEY,
  code nvarchar(8) NOT NULL CONSTRAINT station_code_key UNIQUE,
  name nvarchar(60) NOT NULL,
  section_code nvarchar(6) NOT NULL CONSTRAINT station_section_fk REFERENCES {schema}.coast_section (code),   -- fault: shorter than the key
  latitude float NOT NULL CONSTRAINT station_latitude CHECK ([latitude]>=(-90) AND [latitude]<=(90)),
  longitude float NOT NULL CONSTRAINT station_longitude CHECK ([longitude]>=(-180) AND [longitude]<=(180)),
  opened_on date NOT NULL,
  closed_on date NULL,
  replaced_by_station_id bigint NULL,
  last_visit_on date NULL
);
CREATE INDEX station_section_code_idx ON {schema}.station (section_code);
CREATE INDEX station_code_idx ON {schema}.station (code);         -- fault: repeats the index behind a key

CREATE TABLE {schema}.datum_level (
  station_id bigint NOT NULL CONSTRAINT datum_level_station_fk REFERENCES {schema}.station (id) ON DELETE CASCADE,
  kind nvarchar(10) NOT NULL CONSTRAINT datum_level_kind CHECK ([kind]=N'local' OR [kind]=N'national' OR [kind]=N'chart'),
  height_mm int NOT NULL,
  measured_on date NOT NULL,
  CONSTRAINT datum_level_pk PRIMARY KEY (station_id, kind)
);

CREATE TABLE {schema}.gauge_model (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT gauge_model_pk PRIMARY KEY,
  maker nvarchar(40) NOT NULL,
  name nvarchar(40) NOT NULL,
  resolution_mm float NOT NULL,
  range_mm int NOT NULL,
  resolution_share AS ([resolution_mm]/[range_mm]) PERSISTED,
  CONSTRAINT gauge_model_maker_name_key UNIQUE (maker, name)
);

CREATE TABLE {schema}.gauge (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT gauge_pk PRIMARY KEY,
  serial_number nvarchar(20) NOT NULL,
  model_id bigint NOT NULL CONSTRAINT gauge_model_fk REFERENCES {schema}.gauge_model (id),
  station_id bigint NOT NULL CONSTRAINT gauge_station_fk REFERENCES {schema}.station (id) ON DELETE SET DEFAULT,   -- fault: set default, and there is none
  installed_on date NOT NULL,
  removed_on date NULL,
  CONSTRAINT gauge_removed_after CHECK ([removed_on] IS NULL OR [removed_on]>[installed_on])
);
CREATE INDEX gauge_model_id_idx ON {schema}.gauge (model_id);
CREATE INDEX gauge_station_id_idx ON {schema}.gauge (station_id);

CREATE TABLE {schema}.reading (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT reading_pk PRIMARY KEY NONCLUSTERED,              -- fault: its rows are kept in no order
  gauge_id bigint NOT NULL CONSTRAINT reading_gauge_fk REFERENCES {schema}.gauge (id),
  taken_at datetimeoffset(0) NOT NULL,
  level_mm int NOT NULL,
  quality int NOT NULL CONSTRAINT reading_quality_default DEFAULT ((0)),
  CONSTRAINT reading_gauge_id_taken_at_key UNIQUE (gauge_id, taken_at)
);
CREATE INDEX reading_gauge_id_idx ON {schema}.reading (gauge_id); -- fault: the unique key begins with it
CREATE INDEX reading_taken_at_idx ON {schema}.reading (taken_at) WITH (DATA_COMPRESSION = PAGE);

CREATE TABLE {schema}.reading_flag (
  reading_id bigint NOT NULL CONSTRAINT reading_flag_reading_fk REFERENCES {schema}.reading (id) ON DELETE CASCADE,
  flag nvarchar(10) NOT NULL CONSTRAINT reading_flag_known CHECK ([flag]=N'storm' OR [flag]=N'stuck' OR [flag]=N'gap' OR [flag]=N'spike'),
  set_by bigint NULL CONSTRAINT reading_flag_keeper_fk REFERENCES {schema}.keeper (id) ON DELETE SET NULL,     -- fault: no index
  set_at datetimeoffset(0) NOT NULL,
  CONSTRAINT reading_flag_pk PRIMARY KEY (reading_id, flag)
);

CREATE TABLE {schema}.calibration (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT calibration_pk PRIMARY KEY,
  gauge_id bigint NOT NULL CONSTRAINT calibration_gauge_fk REFERENCES {schema}.gauge (id),
  done_on date NOT NULL,
  offset_mm float NOT NULL,
  done_by bigint NULL CONSTRAINT calibration_keeper_fk REFERENCES {schema}.keeper (id)
);
CREATE INDEX calibration_gauge_id_idx ON {schema}.calibration (gauge_id);
CREATE INDEX calibration_done_by_idx ON {schema}.calibration (done_by);

CREATE TABLE {schema}.station_keeper (
  station_id bigint NOT NULL CONSTRAINT station_keeper_station_fk REFERENCES {schema}.station (id) ON DELETE CASCADE,
  keeper_id bigint NOT NULL CONSTRAINT station_keeper_keeper_fk REFERENCES {schema}.keeper (id) ON DELETE CASCADE,
  since date NOT NULL,
  until date NULL,
  CONSTRAINT station_keeper_pk PRIMARY KEY (station_id, keeper_id, since)
);
CREATE INDEX station_keeper_keeper_id_idx ON {schema}.station_keeper (keeper_id);
CREATE INDEX station_keeper_by_keeper ON {schema}.station_keeper (keeper_id);   -- fault: the same index again

CREATE TABLE {schema}.visit (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT visit_pk PRIMARY KEY,
  station_id bigint NOT NULL CONSTRAINT visit_station_fk REFERENCES {schema}.station (id),            -- fault: no index
  keeper_id bigint NOT NULL CONSTRAINT visit_keeper_fk REFERENCES {schema}.keeper (id),
  calibration_id bigint NULL CONSTRAINT visit_calibration_fk REFERENCES {schema}.calibration (id),
  visited_on date NOT NULL,
  note nvarchar(200) NULL
);
CREATE INDEX visit_keeper_id_idx ON {schema}.visit (keeper_id);
CREATE INDEX visit_calibration_id_idx ON {schema}.visit (calibration_id) WHERE [calibration_id] IS NOT NULL;

CREATE TABLE {schema}.visit_task (
  visit_id bigint NOT NULL CONSTRAINT visit_task_visit_fk REFERENCES {schema}.visit (id) ON DELETE CASCADE,
  position int NOT NULL,
  what nvarchar(60) NOT NULL,
  part_id bigint NULL CONSTRAINT visit_task_part_fk REFERENCES {schema}.spare_part (id),                     -- fault: no index
  minutes int NULL,
  CONSTRAINT visit_task_pk PRIMARY KEY (visit_id, position)
);

CREATE TABLE {schema}.part_stock (
  part_id bigint NOT NULL CONSTRAINT part_stock_part_fk REFERENCES {schema}.spare_part (id),
  store nvarchar(20) NOT NULL,
  pieces int NOT NULL CONSTRAINT part_stock_pieces CHECK ([pieces]>=(0)),
  CONSTRAINT part_stock_pk PRIMARY KEY (part_id, store)
);

CREATE TABLE {schema}.tide_table (
  station_code nvarchar(8) NOT NULL,
  predicted_at datetimeoffset(0) NOT NULL,
  kind nvarchar(4) NOT NULL CONSTRAINT tide_table_kind CHECK ([kind]=N'low' OR [kind]=N'high'),
  level_mm int NOT NULL,
  CONSTRAINT tide_table_pk PRIMARY KEY (station_code, predicted_at)
);

CREATE TABLE {schema}.storm_alert (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT storm_alert_pk PRIMARY KEY,
  issued_at datetimeoffset(0) NOT NULL,
  level nvarchar(10) NOT NULL CONSTRAINT storm_alert_level CHECK ([level]=N'danger' OR [level]=N'warning' OR [level]=N'watch'),
  text nvarchar(400) NOT NULL
);

CREATE TABLE {schema}.alert_station (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT alert_station_pk PRIMARY KEY,
  alert_id bigint NOT NULL CONSTRAINT alert_station_alert_fk REFERENCES {schema}.storm_alert (id) ON DELETE CASCADE,
  station_id bigint NOT NULL CONSTRAINT alert_station_station_fk REFERENCES {schema}.station (id) ON DELETE CASCADE,
  created_at datetimeoffset(0) NOT NULL CONSTRAINT alert_station_created DEFAULT (sysdatetimeoffset())
);                                                                -- fault: the same pair can be there twice
CREATE INDEX alert_station_station_id_idx ON {schema}.alert_station (station_id);

CREATE TABLE {schema}.feed_subscriber (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT feed_subscriber_pk PRIMARY KEY,
  name nvarchar(60) NOT NULL,
  address nvarchar(200) NOT NULL,
  active int NOT NULL CONSTRAINT feed_subscriber_active DEFAULT ((1))
);

CREATE TABLE {schema}.feed_delivery (                             -- fault: no key at all
  subscriber_id bigint NOT NULL,
  alert_id bigint NOT NULL,
  sent_at datetimeoffset(0) NOT NULL,
  accepted int NULL
);
GO
CREATE VIEW {schema}.open_station AS
  SELECT s.id, s.code, s.name, c.name AS section FROM {schema}.station s JOIN {schema}.coast_section c ON c.code = s.section_code WHERE s.closed_on IS NULL
GO
EXEC sys.sp_addextendedproperty N'MS_Description', N'where a gauge stands', N'SCHEMA', N'{schema}', N'TABLE', N'station', NULL, NULL;
EXEC sys.sp_addextendedproperty N'MS_Description', N'a level every six minutes', N'SCHEMA', N'{schema}', N'TABLE', N'reading', NULL, NULL;
