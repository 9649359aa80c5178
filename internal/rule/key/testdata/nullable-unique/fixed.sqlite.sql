-- rebuild main.roster: forbid null in main.roster.station; forbid null in main.roster.day; forbid null in main.roster.watch; drop check roster_day of main.roster; drop check roster_watch of main.roster
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE roster RENAME TO nexdal_old_roster;
CREATE TABLE roster (
  id integer NOT NULL PRIMARY KEY, station integer NOT NULL, day integer NOT NULL, watch integer NOT NULL,
  CONSTRAINT roster_station UNIQUE (station, day), -- want: key/nullable-unique "where station is null"
  CONSTRAINT roster_once UNIQUE (watch)
);
INSERT INTO roster (id, station, day, watch)
  SELECT id, station, day, watch
  FROM nexdal_old_roster;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM roster) = (SELECT count(*) FROM nexdal_old_roster);
DROP TABLE nexdal_old_roster;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- forbid null in main.sheet.day
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE sheet RENAME TO nexdal_old_sheet;
CREATE TABLE sheet (
  id INTEGER PRIMARY KEY, station INTEGER NOT NULL, day INTEGER NOT NULL, page INTEGER NOT NULL,
  CONSTRAINT sheet_day UNIQUE (station, day) -- want: key/nullable-unique "no row has a null"
);
INSERT INTO sheet (id, station, day, page)
  SELECT id, station, day, page
  FROM nexdal_old_sheet;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM sheet) = (SELECT count(*) FROM nexdal_old_sheet);
DROP TABLE nexdal_old_sheet;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
