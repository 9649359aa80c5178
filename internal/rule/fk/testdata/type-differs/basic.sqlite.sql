-- Storage classes and collations count, declared names do not.
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE COLLATE NOCASE, name VARCHAR(20) NOT NULL UNIQUE);
CREATE TABLE gauge (
  id INTEGER PRIMARY KEY,
  station_id TEXT NOT NULL REFERENCES station (id),       -- want: fk/type-differs "stored as text"
  station_code TEXT REFERENCES station (code),            -- want: fk/type-differs "collation"
  loose REFERENCES station (id),                          -- want: fk/type-differs
  small INT REFERENCES station (id),
  big BIGINT REFERENCES station,
  label TEXT REFERENCES station (name)
);
CREATE INDEX gauge_station ON gauge (station_id);
CREATE INDEX gauge_code ON gauge (station_code);
CREATE INDEX gauge_loose ON gauge (loose);
CREATE INDEX gauge_small ON gauge (small);
CREATE INDEX gauge_big ON gauge (big);
CREATE INDEX gauge_label ON gauge (label);
INSERT INTO station VALUES (1, 'A', 'Ansholm'), (2, 'B', 'Brackwater');
INSERT INTO gauge VALUES (1, '1', 'A', 1, 1, 1, 'Ansholm'), (2, '2', 'b', NULL, NULL, 2, NULL);

-- The key of a table that would turn into its rowid: refused.
CREATE TABLE twin (id TEXT NOT NULL PRIMARY KEY REFERENCES station (id));  -- want: fk/type-differs (no fix)
