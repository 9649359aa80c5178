-- What the harbour office had before the agency took it over: the faults that the rest does not show.

CREATE TABLE boat (
  id INTEGER PRIMARY KEY,
  boat_name TEXT NOT NULL,
  hull_mark STRING,                                               -- fault: to the engine STRING is a number
  depth_cm INTEGER NOT NULL DEFAULT 0 CHECK (depth_cm > 0),       -- fault: the default is refused
  berth_id INTEGER NOT NULL REFERENCES berth (id),                -- fault: each needs one of the other first
  entered_at TIMESTAMP NOT NULL                                   -- fault: required, without a default
);
CREATE INDEX boat_berth_id_idx ON boat (berth_id);
CREATE TABLE berth (
  id INTEGER PRIMARY KEY,
  mark TEXT NOT NULL,
  boat_id INTEGER NOT NULL REFERENCES boat (id),
  shore TEXT CHECK (shore IS NOT NULL),                           -- fault: says NOT NULL by a check
  length_m INTEGER CONSTRAINT berth_long CHECK (length_m > 2) CONSTRAINT berth_longer CHECK (length_m > 2),   -- fault: twice
  CONSTRAINT berth_mark_key UNIQUE (mark, boat_id),
  CONSTRAINT berth_whole_key UNIQUE (id, mark)                    -- fault: can never be broken
);
CREATE INDEX berth_boat_id_idx ON berth (boat_id);

CREATE TABLE logbook (
  station_id INTEGER NOT NULL REFERENCES station (id),
  year INTEGER NOT NULL,
  book TEXT NOT NULL,
  page TEXT,                                                      -- fault: part of the key, and may be null
  keeper_id INTEGER REFERENCES keeper (id) REFERENCES gauge_model (id),   -- fault: to two tables
  boat_no INTEGER REFERENCES station (id) REFERENCES station (id),        -- fault: twice
  kept_in REAL NOT NULL UNIQUE,                                   -- fault: a key on floating point
  PRIMARY KEY (station_id, year, book, page)                      -- fault: four columns, and others refer to it
);
CREATE INDEX logbook_keeper_id_idx ON logbook (keeper_id);
CREATE INDEX logbook_boat_no_idx ON logbook (boat_no);
CREATE TABLE logbook_line (
  id INTEGER PRIMARY KEY,
  station_id INTEGER, year INTEGER, book TEXT, page TEXT,
  weather TEXT REFERENCES weather_sign (sign),                    -- fault: refers to no key
  "wind force" INTEGER,                                           -- fault: needs quotes
  "order" INTEGER,                                                -- fault: a reserved word
  keeperid INTEGER,                                               -- fault: keeper_id elsewhere
  CONSTRAINT line_page FOREIGN KEY (station_id, year, book, page) REFERENCES logbook (station_id, year, book, page)   -- fault: can be half filled
);
CREATE INDEX logbook_line_page_idx ON logbook_line (station_id, year, book, page);
CREATE INDEX logbook_line_weather_idx ON logbook_line (weather);
CREATE INDEX logbook_line_all_idx ON logbook_line (year, book, page, weather, keeperid, "order");   -- fault: very wide
CREATE TABLE weather_sign (id INTEGER PRIMARY KEY, sign TEXT NOT NULL, says TEXT NOT NULL);

CREATE TABLE harbour (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE);
CREATE TABLE pier (id INTEGER PRIMARY KEY, harbour_id INTEGER NOT NULL REFERENCES harbour (id) ON DELETE CASCADE);        -- fault: a delete reaches five tables
CREATE TABLE bollard (id INTEGER PRIMARY KEY, pier_id INTEGER NOT NULL REFERENCES pier (id) ON DELETE CASCADE);
CREATE TABLE rope (id INTEGER PRIMARY KEY, bollard_id INTEGER NOT NULL REFERENCES bollard (id) ON DELETE CASCADE);
CREATE TABLE knot (id INTEGER PRIMARY KEY, rope_id INTEGER NOT NULL REFERENCES rope (id) ON DELETE CASCADE);
CREATE TABLE splice (id INTEGER PRIMARY KEY, rope_id INTEGER NOT NULL REFERENCES rope (id) ON DELETE CASCADE);
CREATE INDEX pier_harbour_id_idx ON pier (harbour_id);
CREATE INDEX bollard_pier_id_idx ON bollard (pier_id);
CREATE INDEX rope_bollard_id_idx ON rope (bollard_id);
CREATE INDEX knot_rope_id_idx ON knot (rope_id);
CREATE INDEX splice_rope_id_idx ON splice (rope_id);

CREATE TABLE tally (                                              -- fault: very many indexes
  id INTEGER PRIMARY KEY, a INTEGER, b INTEGER, c INTEGER, d INTEGER, e INTEGER, f INTEGER, g INTEGER, h INTEGER, i INTEGER, j INTEGER, k INTEGER,
  position TEXT                                                   -- fault: a number elsewhere
);
CREATE INDEX tally_a_idx ON tally (a);
CREATE INDEX tally_b_idx ON tally (b);
CREATE INDEX tally_c_idx ON tally (c);
CREATE INDEX tally_d_idx ON tally (d);
CREATE INDEX tally_e_idx ON tally (e);
CREATE INDEX tally_f_idx ON tally (f);
CREATE INDEX tally_g_idx ON tally (g);
CREATE INDEX tally_h_idx ON tally (h);
CREATE INDEX tally_i_idx ON tally (i);
CREATE INDEX tally_j_idx ON tally (j);
CREATE INDEX tally_k_idx ON tally (k);
CREATE TABLE tide_mark (id INTEGER PRIMARY KEY, mark_mm TEXT);    -- fault: a number in the other three
CREATE TABLE flood_mark (id INTEGER PRIMARY KEY, mark_mm INTEGER);
CREATE TABLE ebb_mark (id INTEGER PRIMARY KEY, mark_mm INTEGER);
CREATE TABLE storm_mark (id INTEGER PRIMARY KEY, mark_mm INTEGER);

CREATE TABLE visitor (uuid TEXT NOT NULL PRIMARY KEY, came_on DATE, mood TEXT) WITHOUT ROWID;   -- fault: rows in random order
CREATE TABLE ticket (id INTEGER PRIMARY KEY AUTOINCREMENT, status TEXT NOT NULL, mast TEXT);    -- fault: codes that nothing checks
INSERT INTO ticket (status, mast) SELECT CASE WHEN id % 3 = 0 THEN 'paid' WHEN id % 3 = 1 THEN 'open' ELSE 'void' END, NULL FROM visit WHERE id <= 600;
CREATE TABLE station_prize (                                      -- fault: not in the house's style
  id INTEGER PRIMARY KEY, station_id INTEGER NOT NULL REFERENCES station (id), prize_id INTEGER NOT NULL REFERENCES prize (id),
  CONSTRAINT station_prize_pair_key UNIQUE (station_id, prize_id)
);
CREATE INDEX station_prize_prize_id_idx ON station_prize (prize_id);
CREATE TABLE prize (id INTEGER PRIMARY KEY, the_name_of_the_prize_as_it_is_engraved TEXT NOT NULL UNIQUE);   -- fault: a long name

CREATE TABLE berths (id INTEGER PRIMARY KEY, place TEXT, CONSTRAINT berths_place_key UNIQUE (place));  -- fault: in the plural

INSERT INTO logbook (station_id, year, book, page, keeper_id, boat_no, kept_in) SELECT id, 1950 + id, 'A', '1', 1 + id % 6, id, id + 0.5 FROM station;
INSERT INTO weather_sign VALUES (1, 'W1', 'rain'), (2, 'W2', 'gale'), (3, 'W3', 'fog');
INSERT INTO logbook_line (id, station_id, year, book, page, weather) SELECT id, id, 1950 + id, 'A', '1', 'W1' FROM station;
UPDATE logbook_line SET weather = 'W9' WHERE id = 7;              -- fault: no such sign
CREATE TABLE spray (id INTEGER PRIMARY KEY, flaw INTEGER, watch INTEGER NOT NULL);
INSERT INTO spray SELECT id, CASE WHEN id % 400 = 0 THEN id END, id % 3 FROM reading WHERE id <= 20000;
CREATE INDEX spray_flaw_idx ON spray (flaw);                      -- fault: hardly any row has one
CREATE INDEX spray_watch_idx ON spray (watch);                    -- fault: few values

INSERT INTO ebb_mark VALUES (1, 120), (2, 'unread');              -- fault: no number
CREATE TABLE ferry (id INTEGER PRIMARY KEY);
CREATE VIEW ferry_run AS SELECT id FROM ferry;                    -- fault: reads what is gone
DROP TABLE ferry;
