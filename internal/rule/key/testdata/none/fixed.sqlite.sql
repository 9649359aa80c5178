-- rebuild main.delivery: add column id to main.delivery; add primary key (id) to main.delivery
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
CREATE TABLE nexdal_new_delivery (  -- want: key/none "lets nulls in"
  ticket integer UNIQUE,
  sent integer NOT NULL,
  id INTEGER,
  CONSTRAINT delivery_pkey PRIMARY KEY (id)
);
INSERT INTO nexdal_new_delivery (id, ticket, sent)
  SELECT rowid, ticket, sent
  FROM delivery;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM delivery) = (SELECT count(*) FROM nexdal_new_delivery);
DROP TABLE delivery;
ALTER TABLE nexdal_new_delivery RENAME TO delivery;
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
CREATE TABLE nexdal_new_note (id varchar(10), text varchar(100), note_id INTEGER, CONSTRAINT note_pkey PRIMARY KEY (note_id));
INSERT INTO nexdal_new_note (note_id, id, text)
  SELECT rowid, id, text
  FROM note;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM note) = (SELECT count(*) FROM nexdal_new_note);
DROP TABLE note;
ALTER TABLE nexdal_new_note RENAME TO note;
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
CREATE TABLE nexdal_new_level (station_id integer NOT NULL REFERENCES station (id), kind integer NOT NULL, height integer, CONSTRAINT level_pkey PRIMARY KEY (station_id, kind));
INSERT INTO nexdal_new_level (rowid, station_id, kind, height)
  SELECT rowid, station_id, kind, height
  FROM level;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM level) = (SELECT count(*) FROM nexdal_new_level);
DROP TABLE level;
ALTER TABLE nexdal_new_level RENAME TO level;
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
CREATE TABLE nexdal_new_section (  -- want: key/none "the unique key \(code\)"
  code varchar(8) NOT NULL CONSTRAINT section_pkey PRIMARY KEY,
  name varchar(40)
);
INSERT INTO nexdal_new_section (rowid, code, name)
  SELECT rowid, code, name
  FROM section;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM section) = (SELECT count(*) FROM nexdal_new_section);
DROP TABLE section;
ALTER TABLE nexdal_new_section RENAME TO section;
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('road'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
