-- The action empties some of the columns: those of half-filled rows are meant.
CREATE TABLE day (station integer NOT NULL, day integer NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station integer, day integer DEFAULT 4,
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day) ON DELETE SET NULL (day) -- want: fk/partly-null (no fix)
);
CREATE INDEX visit_by_day ON visit (station, day);
CREATE TABLE stop (
  id integer NOT NULL PRIMARY KEY, station integer DEFAULT 3, day integer,
  CONSTRAINT stop_day FOREIGN KEY (station, day) REFERENCES day (station, day) ON DELETE SET DEFAULT -- want: fk/partly-null (no fix)
);
CREATE INDEX stop_by_day ON stop (station, day);
