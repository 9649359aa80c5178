-- One column that refers to two tables is no link between them, nor is what leads nowhere.
CREATE TABLE station (id INTEGER PRIMARY KEY);
CREATE TABLE keeper (id INTEGER PRIMARY KEY);
CREATE TABLE mark (id INTEGER PRIMARY KEY, who INTEGER REFERENCES keeper (id) REFERENCES station (id)); -- want: fk/two-targets (no fix)
CREATE INDEX mark_who ON mark (who);
CREATE TABLE loose (id INTEGER PRIMARY KEY,
  station_id INTEGER REFERENCES station (id),
  boat_id INTEGER REFERENCES boat (id)); -- want: fk/target-not-key (no fix)
CREATE INDEX loose_station ON loose (station_id);
CREATE INDEX loose_boat ON loose (boat_id);
