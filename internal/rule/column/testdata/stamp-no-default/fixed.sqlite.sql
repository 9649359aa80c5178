-- set the default of main.station.created_at to CURRENT_TIMESTAMP
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE station RENAME TO nexdal_old_station;
CREATE TABLE station (
  id INTEGER PRIMARY KEY,
  created_at TIMESTAMP DEFAULT CURRENT_TIMESTAMP NOT NULL, -- want: column/stamp-no-default
  opened_at TIMESTAMP
);
INSERT INTO station (id, created_at, opened_at)
  SELECT id, created_at, opened_at
  FROM nexdal_old_station;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM station) = (SELECT count(*) FROM nexdal_old_station);
DROP TABLE nexdal_old_station;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
