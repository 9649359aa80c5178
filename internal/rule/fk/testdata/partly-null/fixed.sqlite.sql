-- add check visit_station_day_check to main.visit
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('visit'));
ALTER TABLE visit RENAME TO nexdal_old_visit;
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station integer, day integer,
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day),
  CONSTRAINT visit_station_day_check CHECK ((station IS NULL) = (day IS NULL)) -- want: fk/partly-null
);
INSERT INTO visit (id, station, day)
  SELECT id, station, day
  FROM nexdal_old_visit;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM visit) = (SELECT count(*) FROM nexdal_old_visit);
DROP TABLE nexdal_old_visit;
CREATE INDEX visit_by_day ON visit (station, day);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('visit'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
