-- add foreign key mooring_buoy_id_fkey to main.mooring
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (kept)
  SELECT NOT EXISTS (SELECT 1 FROM mooring c WHERE c.buoy_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM buoy p WHERE p.id = c.buoy_id));
ALTER TABLE mooring RENAME TO nexdal_old_mooring;
CREATE TABLE mooring (
  id integer NOT NULL PRIMARY KEY,
  buoy_id integer NOT NULL,
  CONSTRAINT mooring_buoy_id_fkey FOREIGN KEY (buoy_id) REFERENCES buoy (id) -- want: fk/missing, fk/one-to-one (no fix)
);
INSERT INTO mooring (id, buoy_id)
  SELECT id, buoy_id
  FROM nexdal_old_mooring;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM mooring) = (SELECT count(*) FROM nexdal_old_mooring);
DROP TABLE nexdal_old_mooring;
CREATE INDEX mooring_by_buoy ON mooring (buoy_id);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- create index sheet_station_id_key on main.sheet
CREATE UNIQUE INDEX sheet_station_id_key ON sheet (station_id);

-- drop index sheet_by_station of main.sheet
DROP INDEX sheet_by_station;
