-- A sound structure in many styles: no error and no warning may be found in it.
CREATE TABLE country (iso TEXT NOT NULL PRIMARY KEY, name TEXT NOT NULL UNIQUE) WITHOUT ROWID;
CREATE TABLE region (country_iso TEXT NOT NULL REFERENCES country (iso), code TEXT NOT NULL, name TEXT NOT NULL, PRIMARY KEY (country_iso, code)) WITHOUT ROWID;
CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE COLLATE NOCASE,
  name VARCHAR(80) NOT NULL,
  country_iso TEXT NOT NULL, region_code TEXT NOT NULL,
  parent_station_id INTEGER REFERENCES station ON DELETE SET NULL,
  is_open INTEGER NOT NULL DEFAULT 1 CHECK (is_open IN (0, 1)),
  depth_m DECIMAL(6, 2) CHECK (depth_m >= 0),
  created_at TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP, updated_at DATETIME, deleted_at DATETIME,
  label TEXT GENERATED ALWAYS AS (code || ' ' || name) VIRTUAL,
  FOREIGN KEY (country_iso, region_code) REFERENCES region (country_iso, code)
);
CREATE INDEX station_region ON station (country_iso, region_code);
CREATE INDEX station_parent ON station (parent_station_id);
CREATE UNIQUE INDEX station_name_live ON station (lower(name)) WHERE deleted_at IS NULL;
CREATE TABLE keeper (id INTEGER PRIMARY KEY AUTOINCREMENT, email TEXT NOT NULL UNIQUE, name TEXT NOT NULL);
CREATE TABLE station_keeper (station_id INTEGER NOT NULL REFERENCES station (id) ON DELETE CASCADE, keeper_id INTEGER NOT NULL REFERENCES keeper (id) ON DELETE CASCADE, since DATE NOT NULL, PRIMARY KEY (station_id, keeper_id)) WITHOUT ROWID;
CREATE INDEX station_keeper_keeper ON station_keeper (keeper_id);
CREATE TABLE gauge (id INTEGER PRIMARY KEY, serial TEXT NOT NULL UNIQUE, station_id INTEGER NOT NULL REFERENCES station (id), installed_on TEXT NOT NULL, removed_on TEXT, CHECK (removed_on >= installed_on)) STRICT;
CREATE INDEX gauge_station ON gauge (station_id, installed_on);
CREATE TABLE gauge_detail (gauge_id INTEGER PRIMARY KEY REFERENCES gauge (id) ON DELETE CASCADE, notes TEXT);
CREATE TABLE reading (gauge_id INTEGER NOT NULL REFERENCES gauge (id), taken_at INTEGER NOT NULL, level_mm INTEGER NOT NULL, PRIMARY KEY (gauge_id, taken_at)) WITHOUT ROWID;
CREATE TABLE alert (id INTEGER PRIMARY KEY, station_id INTEGER NOT NULL REFERENCES station (id), status TEXT NOT NULL DEFAULT 'open' CHECK (status IN ('open', 'shut')));
CREATE INDEX alert_open ON alert (station_id) WHERE status = 'open';
CREATE INDEX alert_station ON alert (station_id, status);
CREATE TABLE setting (name TEXT NOT NULL PRIMARY KEY, value);
CREATE VIRTUAL TABLE station_text USING fts5 (name, content = 'station', content_rowid = 'id');
CREATE TABLE audit_log (id INTEGER PRIMARY KEY, at TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP, what TEXT);
