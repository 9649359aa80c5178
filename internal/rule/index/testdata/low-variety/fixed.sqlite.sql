-- rebuild main.reading: forbid null in main.reading.grade; drop index reading_grade of main.reading
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
CREATE TABLE nexdal_new_reading (id integer NOT NULL PRIMARY KEY, grade integer NOT NULL, level integer NOT NULL);
INSERT INTO nexdal_new_reading (id, grade, level)
  SELECT id, grade, level
  FROM reading;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM reading) = (SELECT count(*) FROM nexdal_new_reading);
DROP TABLE reading;
ALTER TABLE nexdal_new_reading RENAME TO reading;
CREATE INDEX reading_level ON reading (level);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
