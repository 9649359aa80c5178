-- change foreign key gauge_station of main.gauge: on delete restrict
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('gauge'));
ALTER TABLE gauge RENAME TO nexdal_old_gauge;
CREATE TABLE gauge (
  id integer PRIMARY KEY,
  station_id integer NOT NULL,
  spare_id integer REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE RESTRICT ON UPDATE CASCADE  -- want: fk/required-set-null "deleting a referenced row of station"
);
INSERT INTO gauge (id, station_id, spare_id)
  SELECT id, station_id, spare_id
  FROM nexdal_old_gauge;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM gauge) = (SELECT count(*) FROM nexdal_old_gauge);
DROP TABLE nexdal_old_gauge;
CREATE INDEX gauge_spare_idx ON gauge (spare_id);
CREATE INDEX gauge_station_idx ON gauge (station_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('gauge'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- change foreign key level_station of main.level: on delete restrict, on update restrict
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
CREATE TABLE level (
  station_id integer NOT NULL,
  kind integer NOT NULL,
  PRIMARY KEY (station_id, kind),
  CONSTRAINT level_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE RESTRICT ON UPDATE RESTRICT  -- want: fk/required-set-null "deleting or changing the key"
);
INSERT INTO level (rowid, station_id, kind)
  SELECT rowid, station_id, kind
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

-- change foreign key pair_station of main.pair: on delete restrict
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('pair'));
ALTER TABLE pair RENAME TO nexdal_old_pair;
CREATE TABLE pair (
  id integer PRIMARY KEY,
  station_id integer, part integer NOT NULL,
  CONSTRAINT pair_station FOREIGN KEY (station_id, part) REFERENCES station (id, part) ON DELETE RESTRICT  -- want: fk/required-set-null
);
INSERT INTO pair (id, station_id, part)
  SELECT id, station_id, part
  FROM nexdal_old_pair;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM pair) = (SELECT count(*) FROM nexdal_old_pair);
DROP TABLE nexdal_old_pair;
CREATE INDEX pair_station_idx ON pair (station_id, part);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('pair'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- change foreign key visit_other of main.visit: on delete restrict
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('visit'));
ALTER TABLE visit RENAME TO nexdal_old_visit;
CREATE TABLE visit (
  id integer PRIMARY KEY,
  station_id integer NOT NULL DEFAULT 1 REFERENCES station (id) ON DELETE SET DEFAULT,
  other_id integer NOT NULL,
  free_id integer REFERENCES station (id) ON DELETE SET DEFAULT,
  CONSTRAINT visit_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE RESTRICT  -- want: fk/required-set-null "SET DEFAULT"
);
INSERT INTO visit (id, station_id, other_id, free_id)
  SELECT id, station_id, other_id, free_id
  FROM nexdal_old_visit;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM visit) = (SELECT count(*) FROM nexdal_old_visit);
DROP TABLE nexdal_old_visit;
CREATE INDEX visit_free_idx ON visit (free_id);
CREATE INDEX visit_other_idx ON visit (other_id);
CREATE INDEX visit_station_idx ON visit (station_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('visit'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
