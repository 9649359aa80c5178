-- rebuild main.reading: forbid null in main.reading.grade; drop index reading_grade of main.reading
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE reading RENAME TO nexdal_old_reading;
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, grade integer NOT NULL, level integer NOT NULL);
INSERT INTO reading (id, grade, level)
  SELECT id, grade, level
  FROM nexdal_old_reading;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM reading) = (SELECT count(*) FROM nexdal_old_reading);
DROP TABLE nexdal_old_reading;
CREATE INDEX reading_level ON reading (level);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
