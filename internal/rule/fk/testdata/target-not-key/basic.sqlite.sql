-- What is referred to is no key, is only part of one, or is not there.
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL, part INTEGER NOT NULL, mark TEXT NOT NULL UNIQUE);
CREATE TABLE day (station INTEGER NOT NULL, day TEXT NOT NULL, PRIMARY KEY (station, day));
CREATE TABLE visit (
  id INTEGER PRIMARY KEY,
  station_code TEXT REFERENCES station (code), -- want: fk/target-not-key
  day_of INTEGER REFERENCES day (station),     -- want: fk/target-not-key
  boat_id INTEGER REFERENCES boat (id),        -- want: fk/target-not-key (no fix)
  station_id INTEGER REFERENCES station (id),
  mark TEXT REFERENCES station (mark)
);
CREATE INDEX v1 ON visit (station_code);
CREATE INDEX v2 ON visit (day_of);
CREATE INDEX v3 ON visit (boat_id);
CREATE INDEX v4 ON visit (station_id);
CREATE INDEX v5 ON visit (mark);
