-- What the harbour office had before the agency took it over: the faults that the rest does not show.
CREATE TABLE boat (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  boat_name varchar(60) NOT NULL,
  draught float(7,2),                                             -- fault: advised against
  depth_cm integer NOT NULL DEFAULT 0 CHECK (depth_cm > 0),       -- fault: the default is refused
  berth_id bigint NOT NULL,
  built_date varchar(10),                                         -- fault: a date in text
  entered_at datetime NOT NULL                                    -- fault: required, without a default
);
CREATE TABLE berth (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  mark varchar(20) NOT NULL,
  boat_id bigint NOT NULL,
  shore varchar(20),
  length_m integer,
  CONSTRAINT berth_shore_check CHECK (shore IS NOT NULL),         -- fault: says NOT NULL by a check
  CONSTRAINT berth_long CHECK (length_m > 2),
  CONSTRAINT berth_longer CHECK (length_m > 2),                   -- fault: twice
  CONSTRAINT berth_boat_fkey FOREIGN KEY (boat_id) REFERENCES boat (id),
  CONSTRAINT berth_mark_key UNIQUE (mark, boat_id),
  CONSTRAINT berth_whole_key UNIQUE (id, mark)                    -- fault: can never be broken
);
ALTER TABLE boat ADD CONSTRAINT boat_berth_fkey FOREIGN KEY (berth_id) REFERENCES berth (id);   -- fault: each needs one of the other first

CREATE TABLE logbook (
  station_id bigint NOT NULL,
  year integer NOT NULL,
  book varchar(20) NOT NULL,
  page varchar(20) NOT NULL,
  keeper_id bigint, boat_no bigint,
  kept_in double NOT NULL,
  shelf varchar(20) NOT NULL, row_no integer,
  CONSTRAINT logbook_kept_in_key UNIQUE (kept_in),                -- fault: a key on floating point
  CONSTRAINT logbook_shelf_key UNIQUE (shelf, row_no),            -- fault: nulls get around it
  CONSTRAINT logbook_station_fkey FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT logbook_keeper_fkey FOREIGN KEY (keeper_id) REFERENCES keeper (id),
  CONSTRAINT logbook_model_fkey FOREIGN KEY (keeper_id) REFERENCES gauge_model (id),       -- fault: to two tables
  CONSTRAINT logbook_boat_fkey FOREIGN KEY (boat_no) REFERENCES station (id),
  CONSTRAINT logbook_boat_again_fkey FOREIGN KEY (boat_no) REFERENCES station (id),        -- fault: twice
  PRIMARY KEY (station_id, year, book, page)                      -- fault: four columns, and others refer to it
);
CREATE TABLE weather_sign (id bigint AUTO_INCREMENT PRIMARY KEY, sign varchar(8) NOT NULL, says varchar(20) NOT NULL, KEY weather_sign_sign_idx (sign));
CREATE TABLE logbook_line (
  id bigint AUTO_INCREMENT PRIMARY KEY,
  station_id bigint, year integer, book varchar(20), page varchar(20),
  weather varchar(8), weather_id bigint,
  `wind force` integer,                                           -- fault: needs quotes
  `order` integer,                                                -- fault: a reserved word
  keeperid bigint,                                                -- fault: keeper_id elsewhere
  KEY logbook_line_all_idx (year, book, page, weather, keeperid, `order`),   -- fault: very wide
  CONSTRAINT line_page FOREIGN KEY (station_id, year, book, page) REFERENCES logbook (station_id, year, book, page)   -- fault: can be half filled
  /*M! , CONSTRAINT line_weather_fkey FOREIGN KEY (weather) REFERENCES weather_sign (sign) */   -- fault: refers to no key
);

CREATE TABLE harbour (id bigint AUTO_INCREMENT PRIMARY KEY, name varchar(40) NOT NULL UNIQUE);
CREATE TABLE pier (id bigint AUTO_INCREMENT PRIMARY KEY, harbour_id bigint NOT NULL, CONSTRAINT pier_harbour_fkey FOREIGN KEY (harbour_id) REFERENCES harbour (id) ON DELETE CASCADE);   -- fault: a delete reaches five tables
CREATE TABLE bollard (id bigint AUTO_INCREMENT PRIMARY KEY, pier_id bigint NOT NULL, CONSTRAINT bollard_pier_fkey FOREIGN KEY (pier_id) REFERENCES pier (id) ON DELETE CASCADE);
CREATE TABLE rope (id bigint AUTO_INCREMENT PRIMARY KEY, bollard_id bigint NOT NULL, CONSTRAINT rope_bollard_fkey FOREIGN KEY (bollard_id) REFERENCES bollard (id) ON DELETE CASCADE);
CREATE TABLE knot (id bigint AUTO_INCREMENT PRIMARY KEY, rope_id bigint NOT NULL, CONSTRAINT knot_rope_fkey FOREIGN KEY (rope_id) REFERENCES rope (id) ON DELETE CASCADE);
CREATE TABLE splice (id bigint AUTO_INCREMENT PRIMARY KEY, rope_id bigint NOT NULL, CONSTRAINT splice_rope_fkey FOREIGN KEY (rope_id) REFERENCES rope (id) ON DELETE CASCADE);

CREATE TABLE tally (                                              -- fault: very many indexes
  id bigint AUTO_INCREMENT PRIMARY KEY, a integer, b integer, c integer, d integer, e integer, f integer, g integer, h integer, i integer, j integer, k integer,
  KEY tally_a_idx (a), KEY tally_b_idx (b), KEY tally_c_idx (c), KEY tally_d_idx (d), KEY tally_e_idx (e), KEY tally_f_idx (f),
  KEY tally_g_idx (g), KEY tally_h_idx (h), KEY tally_i_idx (i), KEY tally_j_idx (j), KEY tally_k_idx (k)
);
CREATE TABLE tide_mark (id bigint AUTO_INCREMENT PRIMARY KEY, mark_mm smallint);   -- fault: a larger number in the other three
CREATE TABLE flood_mark (id bigint AUTO_INCREMENT PRIMARY KEY, mark_mm integer);
CREATE TABLE ebb_mark (id bigint AUTO_INCREMENT PRIMARY KEY, mark_mm integer);
CREATE TABLE storm_mark (id bigint AUTO_INCREMENT PRIMARY KEY, mark_mm integer);

CREATE TABLE visitor (id char(36) NOT NULL PRIMARY KEY, came_on date);   -- fault: rows in random order
CREATE TABLE ticket (                                             -- fault: codes that nothing checks
  id integer AUTO_INCREMENT PRIMARY KEY, status varchar(8) NOT NULL, buyer_no integer NOT NULL,
  UNIQUE (buyer_no)                                               -- fault: the name is not the house's
);
INSERT INTO ticket (status, buyer_no) SELECT CASE id % 3 WHEN 0 THEN 'open' WHEN 1 THEN 'paid' ELSE 'void' END, id FROM visit WHERE id <= 600;
INSERT INTO ticket VALUES (1900000000, 'open', 1900000);          -- fault: nearly out of numbers
CREATE TABLE prize (id bigint AUTO_INCREMENT PRIMARY KEY, the_name_of_the_prize_as_it_is_engraved varchar(60) NOT NULL UNIQUE);   -- fault: a long name
CREATE TABLE station_prize (                                      -- fault: not in the house's style
  id bigint AUTO_INCREMENT PRIMARY KEY, station_id bigint NOT NULL, prize_id bigint NOT NULL,
  CONSTRAINT station_prize_station_fkey FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT station_prize_prize_fkey FOREIGN KEY (prize_id) REFERENCES prize (id),
  CONSTRAINT station_prize_pair_key UNIQUE (station_id, prize_id)
);
CREATE TABLE berths (id bigint AUTO_INCREMENT PRIMARY KEY, place varchar(20));   -- fault: in the plural

-- Numbers. What stands in /*M! */ is for MariaDB alone.
/*M! CREATE SEQUENCE mooring_no */;                                -- fault: numbers two tables
CREATE TABLE mooring_in (id bigint NOT NULL PRIMARY KEY /*M! DEFAULT nextval(mooring_no) */);
CREATE TABLE mooring_out (id bigint NOT NULL PRIMARY KEY /*M! DEFAULT nextval(mooring_no) */, laid_at datetime NULL);
/*M! CREATE TRIGGER mooring_laid BEFORE INSERT ON mooring_out FOR EACH ROW SET NEW.laid_at = NOW() */;   -- fault: a default can
/*M! CREATE SEQUENCE buoy_no MAXVALUE 9999 CYCLE NOCACHE */;       -- fault: begins again
CREATE TABLE buoy (id bigint NOT NULL PRIMARY KEY /*M! DEFAULT nextval(buoy_no) */, colour varchar(9));
INSERT INTO buoy VALUES (7000, 'red');
/*M! CREATE SEQUENCE keel_no NOCACHE */;
CREATE TABLE keel (id bigint NOT NULL PRIMARY KEY /*M! DEFAULT nextval(keel_no) */, colour varchar(9));
INSERT INTO keel VALUES (50, 'blue');                             -- fault: the next number is not past it
/*M! CREATE SEQUENCE flag_no */;                                   -- fault: nothing uses it

-- Partitions.
CREATE TABLE swell (id bigint NOT NULL, at date, height_mm integer NOT NULL, KEY swell_at_idx (at))   -- fault: no key, its end near, a null in the column that it is cut up by, uneven
PARTITION BY RANGE COLUMNS (at) (
  PARTITION swell_2022 VALUES LESS THAN ('2023-01-01'), PARTITION swell_2023 VALUES LESS THAN ('2024-01-01'), PARTITION swell_2024 VALUES LESS THAN ('2025-01-01'),
  PARTITION swells25 VALUES LESS THAN ('2026-01-01'), PARTITION swell_2026 VALUES LESS THAN ('2027-01-01')
);
INSERT INTO swell SELECT id, DATE('2023-01-01') + INTERVAL id % 300 DAY, 0 FROM reading WHERE id <= 20000;
INSERT INTO swell SELECT id, DATE('2024-01-01') + INTERVAL id % 300 DAY, 0 FROM reading WHERE id <= 900;
INSERT INTO swell SELECT id, DATE('2022-01-01') + INTERVAL id % 300 DAY, 0 FROM reading WHERE id <= 900;
INSERT INTO swell SELECT id, DATE('2026-01-01') + INTERVAL id % 300 DAY, 0 FROM reading WHERE id <= 900;
CREATE TABLE ebb (id bigint NOT NULL, shore integer NOT NULL, PRIMARY KEY (id, shore)) PARTITION BY LIST (shore) (PARTITION ebb_north VALUES IN (1), PARTITION ebb_south VALUES IN (2));   -- fault: other shores are refused

INSERT INTO weather_sign VALUES (1, 'W1', 'rain'), (2, 'W2', 'gale'), (3, 'W3', 'fog');
INSERT INTO logbook (station_id, year, book, page, keeper_id, boat_no, kept_in, shelf, row_no) SELECT id, 1950 + id, 'A', '1', 1 + id % 6, id, id + 0.5, 'north', CASE WHEN id % 9 > 0 THEN id END FROM station;
INSERT INTO logbook_line (id, station_id, year, book, page, weather) SELECT id, id, 1950 + id, 'A', '1', 'W1' FROM station;
SET SESSION foreign_key_checks = 0;
UPDATE logbook_line SET weather = 'W9' WHERE id = 7;              -- fault: no such sign
SET SESSION foreign_key_checks = 1;
INSERT INTO harbour (name) VALUES ('Kelp Harbour');

CREATE TABLE spray (id bigint AUTO_INCREMENT PRIMARY KEY, flaw integer, watch integer NOT NULL);
INSERT INTO spray SELECT id, CASE WHEN id % 400 = 0 THEN id END, id % 3 FROM reading WHERE id <= 20000;
CREATE INDEX spray_flaw_idx ON spray (flaw);                      -- fault: hardly any row has one
CREATE INDEX spray_watch_idx ON spray (watch);                    -- fault: few values

CREATE TABLE ferry (id bigint NOT NULL PRIMARY KEY);
CREATE VIEW ferry_run AS SELECT id FROM ferry;                    -- fault: reads what is gone
DROP TABLE ferry;
CREATE TABLE latest_level (station_id bigint NOT NULL PRIMARY KEY, level_mm integer NOT NULL) ENGINE = MyISAM;  -- fault: no transactions

-- What remains to be done once the rows are there: let the engine count.
ANALYZE TABLE coast_section, station, datum_level, gauge_model, gauge, reading, reading_flag, calibration, keeper, station_keeper, visit, visit_task, spare_part, part_stock, tide_table, storm_alert, alert_station, feed_subscriber, feed_delivery, boat, berth, logbook, logbook_line, weather_sign, ticket, swell, spray, station_prize, prize;
