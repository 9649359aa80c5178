-- Saltmere: a made-up agency that runs tide gauges along a made-up coast.
-- The demo database for SQLite, with faults planted among sound structures.

CREATE TABLE coast_section (
  code TEXT NOT NULL CONSTRAINT coast_section_code_key UNIQUE,   -- fault: unique, but no primary key
  name TEXT NOT NULL,
  length_km REAL NOT NULL CHECK (length_km > 0)
);

CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL COLLATE NOCASE,
  name TEXT NOT NULL,
  section_code TEXT NOT NULL REFERENCES coast_section (code),
  latitude REAL NOT NULL CHECK (latitude BETWEEN -90 AND 90),
  longitude REAL NOT NULL CHECK (longitude BETWEEN -180 AND 180),
  opened_on DATE NOT NULL,
  closed_on DATE,
  replaced_by_station_id INTEGER,
  last_visit_on DATE,
  CONSTRAINT station_code_key UNIQUE (code)
);
CREATE INDEX station_section_code_idx ON station (section_code);
CREATE INDEX station_code_idx ON station (code);                  -- fault: repeats the index behind a key

CREATE TABLE datum_level (
  station_id INTEGER NOT NULL REFERENCES station (id) ON DELETE CASCADE,
  kind TEXT NOT NULL CHECK (kind IN ('chart', 'national', 'local')),
  height_mm INTEGER NOT NULL,
  measured_on DATE NOT NULL,
  CONSTRAINT datum_level_pkey PRIMARY KEY (station_id, kind)
) WITHOUT ROWID;

CREATE TABLE gauge_model (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  maker TEXT NOT NULL,
  name TEXT NOT NULL,
  resolution_mm REAL NOT NULL,
  range_mm INTEGER NOT NULL,
  resolution_share REAL GENERATED ALWAYS AS (resolution_mm / range_mm) STORED,
  CONSTRAINT gauge_model_maker_name_key UNIQUE (maker, name)
);

CREATE TABLE gauge (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  serial_number TEXT NOT NULL,
  model_id INTEGER NOT NULL REFERENCES gauge_model (id),
  station_id INTEGER NOT NULL
    CONSTRAINT gauge_station_fkey REFERENCES station (id) ON DELETE SET NULL,   -- fault: set null on a required column
  installed_on DATE NOT NULL,
  removed_on DATE,
  CONSTRAINT gauge_removed_after CHECK (removed_on IS NULL OR removed_on > installed_on)
);
CREATE INDEX gauge_model_id_idx ON gauge (model_id);
CREATE INDEX gauge_station_id_idx ON gauge (station_id);

CREATE TABLE reading (
  id INTEGER PRIMARY KEY,
  gauge_id INTEGER NOT NULL REFERENCES gauge (id),
  taken_at TEXT NOT NULL,
  level_mm INTEGER NOT NULL,
  quality INTEGER NOT NULL DEFAULT 0,
  CONSTRAINT reading_gauge_id_taken_at_key UNIQUE (gauge_id, taken_at)
);
CREATE INDEX reading_gauge_id_idx ON reading (gauge_id);          -- fault: the unique key begins with it
CREATE INDEX reading_taken_at_idx ON reading (taken_at);

CREATE TABLE reading_flag (
  reading_id INTEGER NOT NULL REFERENCES reading (id) ON DELETE CASCADE,
  flag TEXT NOT NULL CHECK (flag IN ('spike', 'gap', 'stuck', 'storm')),
  set_by INTEGER REFERENCES keeper (id) ON DELETE SET NULL,       -- fault: no index
  set_at TEXT NOT NULL,
  PRIMARY KEY (reading_id, flag)
);

CREATE TABLE calibration (
  id INTEGER PRIMARY KEY,
  gauge_id TEXT NOT NULL REFERENCES gauge (id),                   -- fault: text that refers to a number
  done_on DATE NOT NULL,
  offset_mm REAL NOT NULL,
  done_by INTEGER REFERENCES keeper (id)
);
CREATE INDEX calibration_gauge_id_idx ON calibration (gauge_id);
CREATE INDEX calibration_done_by_idx ON calibration (done_by);

CREATE TABLE keeper (
  id INTEGER PRIMARY KEY,
  badge TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  phone TEXT
);

CREATE TABLE station_keeper (
  station_id INTEGER NOT NULL REFERENCES station (id) ON DELETE CASCADE,
  keeper_id INTEGER NOT NULL REFERENCES keeper (id) ON DELETE CASCADE,
  since DATE NOT NULL,
  until DATE,
  CONSTRAINT station_keeper_pkey PRIMARY KEY (station_id, keeper_id, since)
);
CREATE INDEX station_keeper_keeper_id_idx ON station_keeper (keeper_id);
CREATE INDEX station_keeper_by_keeper ON station_keeper (keeper_id);   -- fault: the same index again

CREATE TABLE visit (
  id INTEGER PRIMARY KEY,
  station_id INTEGER NOT NULL REFERENCES station (id),            -- fault: no index
  keeper_id INTEGER NOT NULL REFERENCES keeper (id),
  calibration_id INTEGER REFERENCES calibration (id),
  visited_on DATE NOT NULL,
  note TEXT
);
CREATE INDEX visit_keeper_id_idx ON visit (keeper_id);
CREATE INDEX visit_calibration_id_idx ON visit (calibration_id);

CREATE TABLE visit_task (
  visit_id INTEGER NOT NULL REFERENCES visit (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  what TEXT NOT NULL,
  part_id INTEGER REFERENCES spare_part (id),                     -- fault: no index
  minutes INTEGER,
  PRIMARY KEY (visit_id, position)
);

CREATE TABLE spare_part (
  id INTEGER PRIMARY KEY,
  part_number TEXT NOT NULL,
  name TEXT NOT NULL,
  gauge_model_id INTEGER,
  price REAL
);

CREATE TABLE part_stock (
  part_id INTEGER NOT NULL REFERENCES spare_part (id),
  store TEXT NOT NULL,
  pieces INTEGER NOT NULL CHECK (pieces >= 0),
  PRIMARY KEY (part_id, store)
);

CREATE TABLE tide_table (
  station_code TEXT NOT NULL COLLATE NOCASE,
  predicted_at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('high', 'low')),
  level_mm INTEGER NOT NULL,
  PRIMARY KEY (station_code, predicted_at)
) WITHOUT ROWID;

CREATE TABLE storm_alert (
  id INTEGER PRIMARY KEY,
  issued_at TEXT NOT NULL,
  level TEXT NOT NULL CHECK (level IN ('watch', 'warning', 'danger')),
  text TEXT NOT NULL
);

CREATE TABLE alert_station (
  id INTEGER PRIMARY KEY,
  alert_id INTEGER NOT NULL REFERENCES storm_alert (id) ON DELETE CASCADE,
  station_id INTEGER NOT NULL REFERENCES station (id) ON DELETE CASCADE,
  created_at TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP
);                                                                -- fault: the same pair can be there twice
CREATE INDEX alert_station_station_id_idx ON alert_station (station_id);

CREATE TABLE feed_subscriber (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  address TEXT NOT NULL,
  active INTEGER NOT NULL DEFAULT 1
);

CREATE TABLE feed_delivery (                                      -- fault: no key at all
  subscriber_id INTEGER NOT NULL,
  alert_id INTEGER NOT NULL,
  sent_at TEXT NOT NULL,
  accepted INTEGER
);

CREATE VIEW open_station AS
  SELECT s.id, s.code, s.name, c.name AS section FROM station s JOIN coast_section c ON c.code = s.section_code WHERE s.closed_on IS NULL;

CREATE TRIGGER visit_updates_station AFTER INSERT ON visit BEGIN
  UPDATE station SET last_visit_on = NEW.visited_on WHERE id = NEW.station_id;
END;

CREATE TRIGGER gauge_serial_trimmed AFTER INSERT ON gauge WHEN NEW.serial_number <> trim(NEW.serial_number) BEGIN
  UPDATE gauge SET serial_number = trim(NEW.serial_number) WHERE id = NEW.id;
END;
