-- forbid null in main.station.code
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
  code TEXT NOT NULL PRIMARY KEY, -- want: key/nullable-part "code is part of the primary key and may be null"
  name TEXT
);
INSERT INTO station (rowid, code, name)
  SELECT rowid, code, name
  FROM nexdal_old_station;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM station) = (SELECT count(*) FROM nexdal_old_station);
DROP TABLE nexdal_old_station;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
