-- rebuild main.level: forbid null in main.level.mm; drop check level_there of main.level
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE level RENAME TO nexdal_old_level;
CREATE TABLE level (id integer NOT NULL PRIMARY KEY, mm integer NOT NULL, q integer, -- want: check/as-not-null
  CONSTRAINT level_one CHECK (mm IS NOT NULL OR q IS NOT NULL)
);
INSERT INTO level (id, mm, q)
  SELECT id, mm, q
  FROM nexdal_old_level;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM level) = (SELECT count(*) FROM nexdal_old_level);
DROP TABLE nexdal_old_level;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
