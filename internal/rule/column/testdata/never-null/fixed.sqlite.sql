-- forbid null in main.keeper.level_no
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE keeper RENAME TO nexdal_old_keeper;
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY, badge varchar(9) NOT NULL UNIQUE,
  level_no integer NOT NULL, -- want: column/never-null
  phone varchar(9), until_day integer);
INSERT INTO keeper (id, badge, level_no, phone, until_day)
  SELECT id, badge, level_no, phone, until_day
  FROM nexdal_old_keeper;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM keeper) = (SELECT count(*) FROM nexdal_old_keeper);
DROP TABLE nexdal_old_keeper;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
