-- rebuild main.station: add check station_is_remote_check to main.station; add check station_active_check to main.station
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
  id integer NOT NULL PRIMARY KEY,
  is_remote integer NOT NULL, -- want: column/flag-unchecked "0 or 1"
  active char(1),             -- want: column/flag-unchecked "N or Y"
  sealed_flag char(1) CHECK (sealed_flag IN ('Y', 'N')),
  island integer, history char(1),
  depth integer,
  CONSTRAINT station_is_remote_check CHECK (is_remote IN (0, 1)),
  CONSTRAINT station_active_check CHECK (active IN ('N', 'Y'))
);
INSERT INTO station (id, is_remote, active, sealed_flag, island, history, depth)
  SELECT id, is_remote, active, sealed_flag, island, history, depth
  FROM nexdal_old_station;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM station) = (SELECT count(*) FROM nexdal_old_station);
DROP TABLE nexdal_old_station;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
