-- rebuild main.station: drop the default of main.station.status; drop the default of main.station.grade
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
  status TEXT NOT NULL CHECK (status IN ('a', 'b')), -- want: column/default-refused
  grade INTEGER CHECK (grade > 0),                      -- want: column/default-refused
  kind TEXT DEFAULT 'a' CHECK (kind IN ('a', 'b')), note TEXT DEFAULT NULL
);
INSERT INTO station (id, status, grade, kind, note)
  SELECT id, status, grade, kind, note
  FROM nexdal_old_station;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM station) = (SELECT count(*) FROM nexdal_old_station);
DROP TABLE nexdal_old_station;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
