-- not mysql: the stand-in cannot show its check
-- An action empties one of the columns and leaves the other: a check that both are filled or none would refuse the delete.
CREATE TABLE day (station integer NOT NULL, day integer NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE calendar (day integer NOT NULL PRIMARY KEY);
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station integer, day integer, note varchar(9),
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day), -- want: fk/partly-null (no fix)
  CONSTRAINT visit_calendar FOREIGN KEY (day) REFERENCES calendar (day) ON DELETE SET NULL
);
CREATE INDEX visit_by_day ON visit (station, day);
CREATE INDEX visit_by_calendar ON visit (day);
