-- drop check level_more of main.level
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE level RENAME TO nexdal_old_level;
CREATE TABLE level (id integer NOT NULL PRIMARY KEY, mm integer, q integer,
  CONSTRAINT level_low CHECK (mm > 3), -- want: check/repeated
  CONSTRAINT level_other CHECK (q > 3)
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
