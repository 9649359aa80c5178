-- forbid null in main.sheet.day
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
CREATE TABLE nexdal_new_sheet (
  id INTEGER PRIMARY KEY, station INTEGER NOT NULL, day INTEGER NOT NULL, page INTEGER NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day) -- want: key/nullable-unique "no row has a null"
);
INSERT INTO nexdal_new_sheet (id, station, day, page)
  SELECT id, station, day, page
  FROM sheet;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM sheet) = (SELECT count(*) FROM nexdal_new_sheet);
DROP TABLE sheet;
ALTER TABLE nexdal_new_sheet RENAME TO sheet;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
