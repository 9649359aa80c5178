-- Saltmere: a made-up agency that runs tide gauges along a made-up coast.
-- The demo database for MariaDB, made in a database of its own, with faults planted among sound structures.

CREATE TABLE keeper (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  badge varchar(60) NOT NULL UNIQUE,
  name varchar(60) NOT NULL,
  phone varchar(60)
);

CREATE TABLE spare_part (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  part_number varchar(60) NOT NULL,
  name varchar(60) NOT NULL,
  gauge_model_id bigint,
  price double
);

CREATE TABLE coast_section (
  code varchar(8) NOT NULL UNIQUE,                                -- fault: unique, but no primary key
  name varchar(60) NOT NULL,
  length_km double NOT NULL CHECK (length_km > 0)
);

CREATE TABLE station (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  code varchar(8) NOT NULL,
  name varchar(60) NOT NULL,
  section_code varchar(6) NOT NULL,   -- fault: shorter than the key
  latitude double NOT NULL CHECK (latitude BETWEEN -90 AND 90),
  longitude double NOT NULL CHECK (longitude BETWEEN -180 AND 180),
  opened_on date NOT NULL,
  closed_on date,
  replaced_by_station_id bigint,
  last_visit_on date,
  CONSTRAINT station_code_key UNIQUE (code),
  FOREIGN KEY (section_code) REFERENCES coast_section (code)
);
CREATE INDEX station_section_code_idx ON station (section_code);
CREATE INDEX station_code_idx ON station (code);                  -- fault: repeats the index behind a key

CREATE TABLE datum_level (
  station_id bigint NOT NULL,
  kind varchar(60) NOT NULL CHECK (kind IN ('chart', 'national', 'local')),
  height_mm integer NOT NULL,
  measured_on date NOT NULL,
  CONSTRAINT datum_level_pkey PRIMARY KEY (station_id, kind),
  FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE
);

CREATE TABLE gauge_model (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  maker varchar(60) NOT NULL,
  name varchar(60) NOT NULL,
  resolution_mm double NOT NULL,
  range_mm integer NOT NULL,
  resolution_share double GENERATED ALWAYS AS (resolution_mm / range_mm) STORED,
  CONSTRAINT gauge_model_maker_name_key UNIQUE (maker, name)
);

CREATE TABLE gauge (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  serial_number varchar(60) NOT NULL,
  model_id bigint NOT NULL,
  station_id bigint NOT NULL,
  installed_on date NOT NULL,
  removed_on date,
  CONSTRAINT gauge_removed_after CHECK (removed_on IS NULL OR removed_on > installed_on),
  FOREIGN KEY (model_id) REFERENCES gauge_model (id),
  FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE RESTRICT
);
CREATE INDEX gauge_model_id_idx ON gauge (model_id);
CREATE INDEX gauge_station_id_idx ON gauge (station_id);

CREATE TABLE reading (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  gauge_id bigint NOT NULL,
  taken_at datetime NOT NULL,
  level_mm integer NOT NULL,
  quality integer NOT NULL DEFAULT 0,
  CONSTRAINT reading_gauge_id_taken_at_key UNIQUE (gauge_id, taken_at),
  FOREIGN KEY (gauge_id) REFERENCES gauge (id)
);
CREATE INDEX reading_gauge_id_idx ON reading (gauge_id);          -- fault: the unique key begins with it
CREATE INDEX reading_taken_at_idx ON reading (taken_at);

CREATE TABLE reading_flag (
  reading_id bigint NOT NULL,
  flag varchar(60) NOT NULL CHECK (flag IN ('spike', 'gap', 'stuck', 'storm')),
  set_by bigint,
  set_at datetime NOT NULL,
  PRIMARY KEY (reading_id, flag),
  FOREIGN KEY (reading_id) REFERENCES reading (id) ON DELETE CASCADE,
  FOREIGN KEY (set_by) REFERENCES keeper (id) ON DELETE SET NULL
);

CREATE TABLE calibration (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  gauge_id bigint NOT NULL,
  done_on date NOT NULL,
  offset_mm double NOT NULL,
  done_by bigint,
  FOREIGN KEY (gauge_id) REFERENCES gauge (id),
  FOREIGN KEY (done_by) REFERENCES keeper (id)
);
CREATE INDEX calibration_gauge_id_idx ON calibration (gauge_id);
CREATE INDEX calibration_done_by_idx ON calibration (done_by);

CREATE TABLE station_keeper (
  station_id bigint NOT NULL,
  keeper_id bigint NOT NULL,
  since date NOT NULL,
  until date,
  CONSTRAINT station_keeper_pkey PRIMARY KEY (station_id, keeper_id, since),
  FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE,
  FOREIGN KEY (keeper_id) REFERENCES keeper (id) ON DELETE CASCADE
);
CREATE INDEX station_keeper_keeper_id_idx ON station_keeper (keeper_id);
CREATE INDEX station_keeper_by_keeper ON station_keeper (keeper_id);   -- fault: the same index again

CREATE TABLE visit (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  station_id bigint NOT NULL,     
  keeper_id bigint NOT NULL,
  calibration_id bigint,
  visited_on date NOT NULL,
  note text,
  FOREIGN KEY (station_id) REFERENCES station (id),
  FOREIGN KEY (keeper_id) REFERENCES keeper (id),
  FOREIGN KEY (calibration_id) REFERENCES calibration (id)
);
CREATE INDEX visit_keeper_id_idx ON visit (keeper_id);
CREATE INDEX visit_calibration_id_idx ON visit (calibration_id);

CREATE TABLE visit_task (
  visit_id bigint NOT NULL,
  position integer NOT NULL,
  what varchar(60) NOT NULL,
  part_id bigint,              
  minutes integer,
  PRIMARY KEY (visit_id, position),
  FOREIGN KEY (visit_id) REFERENCES visit (id) ON DELETE CASCADE,
  FOREIGN KEY (part_id) REFERENCES spare_part (id)
);

CREATE TABLE part_stock (
  part_id bigint NOT NULL,
  store varchar(60) NOT NULL,
  pieces integer NOT NULL CHECK (pieces >= 0),
  PRIMARY KEY (part_id, store),
  FOREIGN KEY (part_id) REFERENCES spare_part (id)
);

CREATE TABLE tide_table (
  station_code varchar(8) NOT NULL,
  predicted_at datetime NOT NULL,
  kind varchar(60) NOT NULL CHECK (kind IN ('high', 'low')),
  level_mm integer NOT NULL,
  PRIMARY KEY (station_code, predicted_at)
);

CREATE TABLE storm_alert (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  issued_at datetime NOT NULL,
  level varchar(60) NOT NULL CHECK (level IN ('watch', 'warning', 'danger')),
  text text NOT NULL
);

CREATE TABLE alert_station (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  alert_id bigint NOT NULL,
  station_id bigint NOT NULL,
  created_at datetime NOT NULL DEFAULT current_timestamp(),
  FOREIGN KEY (alert_id) REFERENCES storm_alert (id) ON DELETE CASCADE,
  FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE
);                                                                -- fault: the same pair can be there twice
CREATE INDEX alert_station_station_id_idx ON alert_station (station_id);

CREATE TABLE feed_subscriber (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  name varchar(60) NOT NULL,
  address varchar(60) NOT NULL,
  active integer NOT NULL DEFAULT 1
);

CREATE TABLE feed_delivery (                                      -- fault: no key at all
  subscriber_id bigint NOT NULL,
  alert_id bigint NOT NULL,
  sent_at datetime NOT NULL,
  accepted integer
);

CREATE VIEW open_station AS
  SELECT s.id, s.code, s.name, c.name AS section FROM station s JOIN coast_section c ON c.code = s.section_code WHERE s.closed_on IS NULL;

CREATE TRIGGER visit_updates_station AFTER INSERT ON visit FOR EACH ROW
  UPDATE station SET last_visit_on = NEW.visited_on WHERE id = NEW.station_id;
