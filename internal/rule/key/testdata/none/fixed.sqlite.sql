-- rebuild main.delivery: add column id to main.delivery; add primary key (id) to main.delivery
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE delivery RENAME TO nexdal_old_delivery;
CREATE TABLE delivery (  -- want: key/none "lets nulls in"
  ticket integer UNIQUE,
  sent integer NOT NULL,
  id INTEGER,
  CONSTRAINT delivery_pkey PRIMARY KEY (id)
);
INSERT INTO delivery (id, ticket, sent)
  SELECT rowid, ticket, sent
  FROM nexdal_old_delivery;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM delivery) = (SELECT count(*) FROM nexdal_old_delivery);
DROP TABLE nexdal_old_delivery;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- rebuild main.note: add column note_id to main.note; add primary key (note_id) to main.note
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE note RENAME TO nexdal_old_note;
CREATE TABLE note (id varchar(10), text varchar(100), note_id INTEGER, CONSTRAINT note_pkey PRIMARY KEY (note_id));
INSERT INTO note (note_id, id, text)
  SELECT rowid, id, text
  FROM nexdal_old_note;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM note) = (SELECT count(*) FROM nexdal_old_note);
DROP TABLE nexdal_old_note;
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- make the unique index (station_id, kind) of main.level its primary key
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('level'));
ALTER TABLE level RENAME TO nexdal_old_level;
CREATE TABLE level (station_id integer NOT NULL REFERENCES station (id), kind integer NOT NULL, height integer, CONSTRAINT level_pkey PRIMARY KEY (station_id, kind));
INSERT INTO level (rowid, station_id, kind, height)
  SELECT rowid, station_id, kind, height
  FROM nexdal_old_level;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM level) = (SELECT count(*) FROM nexdal_old_level);
DROP TABLE nexdal_old_level;
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('level'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- make the unique constraint (code) of main.section its primary key
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('road'));
ALTER TABLE section RENAME TO nexdal_old_section;
CREATE TABLE section (  -- want: key/none "the unique key \(code\)"
  code varchar(8) NOT NULL CONSTRAINT section_pkey PRIMARY KEY,
  name varchar(40)
);
INSERT INTO section (rowid, code, name)
  SELECT rowid, code, name
  FROM nexdal_old_section;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM section) = (SELECT count(*) FROM nexdal_old_section);
DROP TABLE nexdal_old_section;
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('road'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
