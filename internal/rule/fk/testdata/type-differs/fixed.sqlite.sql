-- rebuild main.gauge: change the type of main.gauge.loose to INTEGER; change the type of main.gauge.station_code to TEXT collate NOCASE; change the type of main.gauge.station_id to INTEGER
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('gauge'));
INSERT INTO nexdal_guard (kept)
  SELECT NOT EXISTS (SELECT 1 FROM gauge WHERE typeof(loose) = 'text' AND CAST(CAST(loose AS NUMERIC) AS TEXT) <> loose)
  AND NOT EXISTS (SELECT 1 FROM gauge WHERE typeof(station_id) = 'text' AND CAST(CAST(station_id AS NUMERIC) AS TEXT) <> station_id);
ALTER TABLE gauge RENAME TO nexdal_old_gauge;
CREATE TABLE gauge (
  id INTEGER PRIMARY KEY,
  station_id INTEGER NOT NULL REFERENCES station (id),       -- want: fk/type-differs "stored as text"
  station_code TEXT REFERENCES station (code) COLLATE NOCASE,            -- want: fk/type-differs "collation"
  loose INTEGER REFERENCES station (id),                          -- want: fk/type-differs
  small INT REFERENCES station (id),
  big BIGINT REFERENCES station,
  label TEXT REFERENCES station (name)
);
INSERT INTO gauge (id, station_id, station_code, loose, small, big, label)
  SELECT id, station_id, station_code, loose, small, big, label
  FROM nexdal_old_gauge;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM gauge) = (SELECT count(*) FROM nexdal_old_gauge);
DROP TABLE nexdal_old_gauge;
CREATE INDEX gauge_big ON gauge (big);
CREATE INDEX gauge_code ON gauge (station_code);
CREATE INDEX gauge_label ON gauge (label);
CREATE INDEX gauge_loose ON gauge (loose);
CREATE INDEX gauge_small ON gauge (small);
CREATE INDEX gauge_station ON gauge (station_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('gauge'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
