-- rebuild main.keeper: forbid null in main.keeper.level_no; forbid null in main.keeper.pieces; create index keeper_badge_number_key on main.keeper
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
CREATE TABLE nexdal_new_keeper (
  id integer NOT NULL PRIMARY KEY,
  badge_number varchar(9) NOT NULL, -- want: key/undeclared
  level_no integer NOT NULL, phone varchar(9), pieces integer NOT NULL);
INSERT INTO nexdal_new_keeper (id, badge_number, level_no, phone, pieces)
  SELECT id, badge_number, level_no, phone, pieces
  FROM keeper;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM keeper) = (SELECT count(*) FROM nexdal_new_keeper);
DROP TABLE keeper;
ALTER TABLE nexdal_new_keeper RENAME TO keeper;
CREATE UNIQUE INDEX keeper_badge_number_key ON keeper (badge_number);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
