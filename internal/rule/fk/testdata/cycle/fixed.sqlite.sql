-- change foreign key (a_id) to a of main.b: check it at the end of the transaction
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('b'))
  + (SELECT count(*) FROM pragma_foreign_key_check('a'));
ALTER TABLE b RENAME TO nexdal_old_b;
CREATE TABLE b (id INTEGER PRIMARY KEY, a_id INTEGER NOT NULL REFERENCES a (id) DEFERRABLE INITIALLY DEFERRED);
INSERT INTO b (id, a_id)
  SELECT id, a_id
  FROM nexdal_old_b;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM b) = (SELECT count(*) FROM nexdal_old_b);
DROP TABLE nexdal_old_b;
CREATE INDEX i2 ON b (a_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('b'))
  + (SELECT count(*) FROM pragma_foreign_key_check('a'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
