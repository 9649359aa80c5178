-- rebuild main.keeper: forbid null in main.keeper.level_no; forbid null in main.keeper.pieces; create index keeper_badge_number_key on main.keeper
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
ALTER TABLE keeper RENAME TO nexdal_old_keeper;
CREATE TABLE keeper (
  id integer NOT NULL PRIMARY KEY,
  badge_number varchar(9) NOT NULL, -- want: key/undeclared
  level_no integer NOT NULL, phone varchar(9), pieces integer NOT NULL);
INSERT INTO keeper (id, badge_number, level_no, phone, pieces)
  SELECT id, badge_number, level_no, phone, pieces
  FROM nexdal_old_keeper;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM keeper) = (SELECT count(*) FROM nexdal_old_keeper);
DROP TABLE nexdal_old_keeper;
CREATE UNIQUE INDEX keeper_badge_number_key ON keeper (badge_number);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
