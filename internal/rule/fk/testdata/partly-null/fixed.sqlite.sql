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
CREATE TABLE nexdal_new_visit (
  id integer NOT NULL PRIMARY KEY, station integer, day integer,
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day),
  CONSTRAINT visit_station_day_check CHECK ((station IS NULL) = (day IS NULL)) -- want: fk/partly-null
);
INSERT INTO nexdal_new_visit (id, station, day)
  SELECT id, station, day
  FROM visit;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM visit) = (SELECT count(*) FROM nexdal_new_visit);
DROP TABLE visit;
ALTER TABLE nexdal_new_visit RENAME TO visit;
CREATE INDEX visit_by_day ON visit (station, day);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('visit'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
