-- rebuild main.station: add check station_status_check to main.station; add check station_role_check to main.station
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
  status varchar(10) NOT NULL, -- want: column/code-unchecked "open, shut"
  kind varchar(10) NOT NULL CHECK (kind IN ('a', 'b')),
  name varchar(20) NOT NULL,
  role smallint NOT NULL, -- want: column/code-unchecked "7, 8, 10"
  priority smallint NOT NULL,
  CONSTRAINT station_status_check CHECK (status IN ('open', 'shut')),
  CONSTRAINT station_role_check CHECK (role IN (7, 8, 10))
);
INSERT INTO station (id, status, kind, name, role, priority)
  SELECT id, status, kind, name, role, priority
  FROM nexdal_old_station;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM station) = (SELECT count(*) FROM nexdal_old_station);
DROP TABLE nexdal_old_station;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
