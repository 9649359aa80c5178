-- Half filled, it is not checked; unless a check, or only one column says so.
CREATE TABLE day (station NUMBER(10) NOT NULL, day NUMBER(10) NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE visit (
  id NUMBER(10) NOT NULL PRIMARY KEY, station NUMBER(10), day NUMBER(10),
  CONSTRAINT visit_day FOREIGN KEY (station, day) REFERENCES day (station, day) -- want: fk/partly-null
);
CREATE INDEX visit_by_day ON visit (station, day);
CREATE TABLE stop (
  id NUMBER(10) NOT NULL PRIMARY KEY, station NUMBER(10) NOT NULL, day NUMBER(10),
  CONSTRAINT stop_day FOREIGN KEY (station, day) REFERENCES day (station, day)
);
CREATE INDEX stop_by_day ON stop (station, day);
CREATE TABLE halt (
  id NUMBER(10) NOT NULL PRIMARY KEY, station NUMBER(10), day NUMBER(10),
  CONSTRAINT halt_day FOREIGN KEY (station, day) REFERENCES day (station, day),
  CONSTRAINT halt_both CHECK ((station IS NULL) = (day IS NULL))
);
CREATE INDEX halt_by_day ON halt (station, day);
