-- not mysql: the stand-in cannot show its check
-- Half filled, it is not checked; unless a check, or only one column says so.
CREATE TABLE day (station integer NOT NULL, day integer NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY, station integer, day integer,
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day) -- want: fk/partly-null
);
CREATE INDEX visit_by_day ON visit (station, day);
CREATE TABLE stop (
  id integer NOT NULL PRIMARY KEY, station integer NOT NULL, day integer,
  CONSTRAINT stop_day FOREIGN KEY (station, day) REFERENCES day (station, day)
);
CREATE INDEX stop_by_day ON stop (station, day);
CREATE TABLE halt (
  id integer NOT NULL PRIMARY KEY, station integer, day integer,
  CONSTRAINT halt_day FOREIGN KEY (station, day) REFERENCES day (station, day),
  CONSTRAINT halt_both CHECK ((station IS NULL) = (day IS NULL))
);
CREATE INDEX halt_by_day ON halt (station, day);
