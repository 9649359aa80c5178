-- make a number, id, the primary key of main.sheet, and (station_id, year, page, line) a unique constraint
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('sheet'))
  + (SELECT count(*) FROM pragma_foreign_key_check('mark'));
ALTER TABLE sheet RENAME TO nexdal_old_sheet;
CREATE TABLE sheet (
  station_id integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL,
  id INTEGER,
  CONSTRAINT sheet_station_id_year_page_line_key UNIQUE (station_id, year, page, line), -- want: key/wide
  CONSTRAINT sheet_station FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT sheet_pkey PRIMARY KEY (id)
);
INSERT INTO sheet (id, station_id, year, page, line)
  SELECT rowid, station_id, year, page, line
  FROM nexdal_old_sheet;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM sheet) = (SELECT count(*) FROM nexdal_old_sheet);
DROP TABLE nexdal_old_sheet;
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('sheet'))
  + (SELECT count(*) FROM pragma_foreign_key_check('mark'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- rebuild main.mark: add column sheet_id to main.mark; create index mark_sheet_id_idx on main.mark; add foreign key mark_sheet_id_fkey to main.mark
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('mark'));
ALTER TABLE mark RENAME TO nexdal_old_mark;
CREATE TABLE mark (
  id integer NOT NULL PRIMARY KEY, station_id integer NOT NULL, year integer NOT NULL, page integer NOT NULL, line integer NOT NULL,
  sheet_id INTEGER,
  CONSTRAINT mark_sheet FOREIGN KEY (station_id, year, page, line) REFERENCES sheet (station_id, year, page, line),
  CONSTRAINT mark_sheet_id_fkey FOREIGN KEY (sheet_id) REFERENCES sheet (id)
);
INSERT INTO mark (id, station_id, year, page, line)
  SELECT id, station_id, year, page, line
  FROM nexdal_old_mark;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM mark) = (SELECT count(*) FROM nexdal_old_mark);
DROP TABLE nexdal_old_mark;
CREATE INDEX mark_sheet_id_idx ON mark (sheet_id);
CREATE INDEX mark_sheet_idx ON mark (station_id, year, page, line);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('mark'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- fill main.mark.sheet_id with id of the row of main.sheet that (station_id, year, page, line) refers to
UPDATE mark AS c
  SET sheet_id = (SELECT p.id FROM sheet AS p WHERE p.station_id = c.station_id AND p.year = c.year AND p.page = c.page AND p.line = c.line)
  WHERE c.sheet_id IS NULL;
