-- change foreign key gauge_station of main.gauge: on delete no action
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
  id integer NOT NULL PRIMARY KEY, station_id integer,
  other_id integer, third_id integer,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE NO ACTION, -- want: fk/house-actions
  CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT gauge_third FOREIGN KEY (third_id) REFERENCES station (id)
);
INSERT INTO gauge (id, station_id, other_id, third_id)
  SELECT id, station_id, other_id, third_id
  FROM nexdal_old_gauge;
INSERT INTO nexdal_guard (kept)
  SELECT (SELECT count(*) FROM gauge) = (SELECT count(*) FROM nexdal_old_gauge);
DROP TABLE nexdal_old_gauge;
CREATE INDEX g1 ON gauge (station_id);
CREATE INDEX g2 ON gauge (other_id);
CREATE INDEX g3 ON gauge (third_id);
INSERT INTO nexdal_guard (joined)
  SELECT (SELECT count(*) FROM pragma_foreign_key_check('gauge'))
  <= (SELECT orphans FROM nexdal_guard WHERE orphans IS NOT NULL);
DROP TABLE temp.nexdal_guard;
COMMIT;
PRAGMA legacy_alter_table = OFF;
PRAGMA foreign_keys = ON;
