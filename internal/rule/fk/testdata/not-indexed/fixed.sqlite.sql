-- rebuild main.stock: add check stock_part_id_part_no_check to main.stock; create index stock_station_id_idx on main.stock; create index stock_part_id_part_no_idx on main.stock
PRAGMA foreign_keys = OFF;
PRAGMA legacy_alter_table = ON;
BEGIN IMMEDIATE;
CREATE TEMP TABLE nexdal_guard (
  kept INTEGER CONSTRAINT "rows would change or be lost" CHECK (kept),
  joined INTEGER CONSTRAINT "references would break" CHECK (joined),
  orphans INTEGER
);
INSERT INTO nexdal_guard (orphans)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('stock'));
ALTER TABLE stock RENAME TO nexdal_old_stock;
CREATE TABLE stock (
  id integer PRIMARY KEY,
  store integer NOT NULL,
  station_id integer REFERENCES station (id),            -- want: fk/not-indexed
  part_id integer, part_no integer,
  CONSTRAINT stock_part FOREIGN KEY (part_id, part_no) REFERENCES station (id, part),
  CONSTRAINT stock_part_id_part_no_check CHECK ((part_id IS NULL) = (part_no IS NULL))  -- want: fk/not-indexed, fk/partly-null
);
INSERT INTO stock (id, store, station_id, part_id, part_no)
  SELECT id, store, station_id, part_id, part_no
  FROM nexdal_old_stock;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM stock) = (SELECT count(*) FROM nexdal_old_stock);
DROP TABLE nexdal_old_stock;
CREATE INDEX stock_part_id_part_no_idx ON stock (part_id, part_no);
CREATE INDEX stock_station_id_idx ON stock (station_id);
CREATE INDEX stock_store_station ON stock (store, station_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('stock'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;

-- create index visit_station_id_idx on main.visit
CREATE INDEX visit_station_id_idx ON visit (station_id);
