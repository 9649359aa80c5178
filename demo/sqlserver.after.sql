-- What the harbour office had before the agency took it over: the faults that the rest does not show.
CREATE TABLE {schema}.boat (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT boat_pk PRIMARY KEY,
  boat_name nvarchar(40) NOT NULL,
  papers ntext NULL,                                              -- fault: advised against
  depth_cm int NOT NULL CONSTRAINT boat_depth_default DEFAULT ((0)) CONSTRAINT boat_depth CHECK ([depth_cm]>(0)),   -- fault: the default is refused
  berth_id bigint NOT NULL,
  built_date nvarchar(20) NULL,                                   -- fault: a date in text
  seen_at datetime2(0) NULL,                                      -- fault: no time zone
  entered_at datetimeoffset(0) NOT NULL                           -- fault: required, without a default
);
CREATE INDEX boat_berth_id_idx ON {schema}.boat (berth_id);
CREATE TABLE {schema}.berth (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT berth_pk PRIMARY KEY,
  mark nvarchar(10) NOT NULL,
  boat_id bigint NOT NULL CONSTRAINT berth_boat_fk REFERENCES {schema}.boat (id),
  shore nvarchar(10) NULL CONSTRAINT berth_shore_check CHECK ([shore] IS NOT NULL),   -- fault: says NOT NULL by a check
  length_m int NULL CONSTRAINT berth_long CHECK ([length_m]>(2)) CONSTRAINT berth_longer CHECK ([length_m]>(2)),   -- fault: twice
  plate nvarchar(10) NULL CONSTRAINT berth_plate_key UNIQUE,      -- fault: only one row can be without a value
  CONSTRAINT berth_mark_key UNIQUE (mark, boat_id),
  CONSTRAINT berth_whole_key UNIQUE (id, mark)                    -- fault: can never be broken
);
CREATE INDEX berth_boat_id_idx ON {schema}.berth (boat_id);
ALTER TABLE {schema}.boat ADD CONSTRAINT boat_berth_fk FOREIGN KEY (berth_id) REFERENCES {schema}.berth (id);   -- fault: each needs one of the other first

CREATE TABLE {schema}.logbook (
  station_id bigint NOT NULL CONSTRAINT logbook_station_fk REFERENCES {schema}.station (id),
  year int NOT NULL,
  book nvarchar(20) NOT NULL,
  page nvarchar(20) NOT NULL,
  keeper_id bigint NULL CONSTRAINT logbook_keeper_fk REFERENCES {schema}.keeper (id) CONSTRAINT logbook_model_fk REFERENCES {schema}.gauge_model (id),   -- fault: to two tables
  boat_no bigint NULL CONSTRAINT logbook_boat_fk REFERENCES {schema}.station (id) CONSTRAINT logbook_boat_again_fk REFERENCES {schema}.station (id),      -- fault: twice
  kept_in float NOT NULL CONSTRAINT logbook_kept_in_key UNIQUE,   -- fault: a key on floating point
  CONSTRAINT logbook_pk PRIMARY KEY (station_id, year, book, page)   -- fault: four columns, and others refer to it
);
CREATE INDEX logbook_keeper_id_idx ON {schema}.logbook (keeper_id);
CREATE INDEX logbook_boat_no_idx ON {schema}.logbook (boat_no);
CREATE TABLE {schema}.logbook_line (
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT logbook_line_pk PRIMARY KEY,
  station_id bigint NULL, year int NULL, book nvarchar(20) NULL, page nvarchar(20) NULL,
  weather_id bigint NULL, level_mm int NULL,
  [wind force] int NULL,                                          -- fault: needs quotes
  [order] int NULL,                                               -- fault: a reserved word
  keeperid bigint NULL,                                           -- fault: keeper_id elsewhere
  CONSTRAINT line_page FOREIGN KEY (station_id, year, book, page) REFERENCES {schema}.logbook (station_id, year, book, page)   -- fault: can be half filled
);
CREATE INDEX logbook_line_page_idx ON {schema}.logbook_line (station_id, year, book, page);
CREATE INDEX logbook_line_weather_idx ON {schema}.logbook_line (weather_id);
CREATE INDEX logbook_line_all_idx ON {schema}.logbook_line (year, book, page, weather_id, keeperid, [order]);   -- fault: very wide
CREATE TABLE {schema}.weather_sign (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT weather_sign_pk PRIMARY KEY, sign nvarchar(10) NOT NULL, says nvarchar(40) NOT NULL);
CREATE UNIQUE INDEX weather_sign_sign_idx ON {schema}.weather_sign (sign); -- fault: unique by an index alone

CREATE TABLE {schema}.harbour (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT harbour_pk PRIMARY KEY, name nvarchar(40) NOT NULL CONSTRAINT harbour_name_key UNIQUE);
CREATE TABLE {schema}.pier (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT pier_pk PRIMARY KEY, harbour_id bigint NOT NULL CONSTRAINT pier_harbour_fk REFERENCES {schema}.harbour (id) ON DELETE CASCADE);        -- fault: a delete reaches five tables
CREATE TABLE {schema}.bollard (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT bollard_pk PRIMARY KEY, pier_id bigint NOT NULL CONSTRAINT bollard_pier_fk REFERENCES {schema}.pier (id) ON DELETE CASCADE);
CREATE TABLE {schema}.rope (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT rope_pk PRIMARY KEY, bollard_id bigint NOT NULL CONSTRAINT rope_bollard_fk REFERENCES {schema}.bollard (id) ON DELETE CASCADE);
CREATE TABLE {schema}.knot (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT knot_pk PRIMARY KEY, rope_id bigint NOT NULL CONSTRAINT knot_rope_fk REFERENCES {schema}.rope (id) ON DELETE CASCADE);
CREATE TABLE {schema}.splice (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT splice_pk PRIMARY KEY, rope_id bigint NOT NULL CONSTRAINT splice_rope_fk REFERENCES {schema}.rope (id) ON DELETE CASCADE);
CREATE INDEX pier_harbour_id_idx ON {schema}.pier (harbour_id);
CREATE INDEX bollard_pier_id_idx ON {schema}.bollard (pier_id);
CREATE INDEX rope_bollard_id_idx ON {schema}.rope (bollard_id);
CREATE INDEX knot_rope_id_idx ON {schema}.knot (rope_id);
CREATE INDEX splice_rope_id_idx ON {schema}.splice (rope_id);

CREATE TABLE {schema}.tally (                                     -- fault: very many indexes
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT tally_pk PRIMARY KEY, a int, b int, c int, d int, e int, f int, g int, h int, i int, j int, k int
);
CREATE INDEX tally_a_idx ON {schema}.tally (a);
CREATE INDEX tally_b_idx ON {schema}.tally (b);
CREATE INDEX tally_c_idx ON {schema}.tally (c);
CREATE INDEX tally_d_idx ON {schema}.tally (d);
CREATE INDEX tally_e_idx ON {schema}.tally (e);
CREATE INDEX tally_f_idx ON {schema}.tally (f);
CREATE INDEX tally_g_idx ON {schema}.tally (g);
CREATE INDEX tally_h_idx ON {schema}.tally (h);
CREATE INDEX tally_i_idx ON {schema}.tally (i);
CREATE INDEX tally_j_idx ON {schema}.tally (j);
CREATE INDEX tally_k_idx ON {schema}.tally (k);
CREATE TABLE {schema}.tide_mark (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT tide_mark_pk PRIMARY KEY, mark_mm smallint);   -- fault: a larger number in the other three
CREATE TABLE {schema}.flood_mark (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT flood_mark_pk PRIMARY KEY, mark_mm int);
CREATE TABLE {schema}.ebb_mark (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT ebb_mark_pk PRIMARY KEY, mark_mm int);
CREATE TABLE {schema}.storm_mark (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT storm_mark_pk PRIMARY KEY, mark_mm int);

CREATE TABLE {schema}.ticket (                                    -- fault: nearly out of numbers; codes that nothing checks
  id int IDENTITY(1900000000,1) NOT NULL CONSTRAINT ticket_pk PRIMARY KEY, status nvarchar(10) NOT NULL, buyer_no int NOT NULL, printed date NULL,
  CONSTRAINT ticket_buyer_no_key UNIQUE (buyer_no)                -- fault: the name is not the house's
);
INSERT INTO {schema}.ticket (status, buyer_no) SELECT CASE WHEN r.id % 3 = 0 THEN N'open' WHEN r.id % 3 = 1 THEN N'paid' ELSE N'void' END, r.id FROM {schema}.reading r WHERE r.id <= 600;
CREATE TABLE {schema}.prize (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT prize_pk PRIMARY KEY, the_name_of_the_prize_as_it_is_engraved nvarchar(80) NOT NULL CONSTRAINT prize_name_key UNIQUE);   -- fault: a long name
CREATE TABLE {schema}.station_prize (                             -- fault: not in the house's style
  id bigint IDENTITY(1,1) NOT NULL CONSTRAINT station_prize_pk PRIMARY KEY, station_id bigint NOT NULL CONSTRAINT station_prize_station_fk REFERENCES {schema}.station (id),
  prize_id bigint NOT NULL CONSTRAINT station_prize_prize_fk REFERENCES {schema}.prize (id),
  CONSTRAINT station_prize_pair_key UNIQUE (station_id, prize_id)
);
CREATE INDEX station_prize_prize_id_idx ON {schema}.station_prize (prize_id);
CREATE TABLE {schema}.berths (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT berths_pk PRIMARY KEY, place nvarchar(20) NULL);  -- fault: in the plural
CREATE TABLE {schema}.beacon (id uniqueidentifier NOT NULL CONSTRAINT beacon_id_default DEFAULT (newid()) CONSTRAINT beacon_pk PRIMARY KEY, colour nvarchar(10) NULL);   -- fault: rows in the order of a random identifier

-- Numbers.
CREATE SEQUENCE {schema}.mooring_no AS bigint START WITH 1;       -- fault: numbers two tables
CREATE TABLE {schema}.mooring_in (id bigint NOT NULL CONSTRAINT mooring_in_id_default DEFAULT (NEXT VALUE FOR {schema}.mooring_no) CONSTRAINT mooring_in_pk PRIMARY KEY);
CREATE TABLE {schema}.mooring_out (id bigint NOT NULL CONSTRAINT mooring_out_id_default DEFAULT (NEXT VALUE FOR {schema}.mooring_no) CONSTRAINT mooring_out_pk PRIMARY KEY);
CREATE SEQUENCE {schema}.buoy_no AS bigint START WITH 1 MINVALUE 1 MAXVALUE 9999 CYCLE;   -- fault: begins again
CREATE TABLE {schema}.buoy (id bigint NOT NULL CONSTRAINT buoy_id_default DEFAULT (NEXT VALUE FOR {schema}.buoy_no) CONSTRAINT buoy_pk PRIMARY KEY, colour nvarchar(10) NULL);
CREATE SEQUENCE {schema}.raft_no AS bigint START WITH 1;
CREATE TABLE {schema}.raft (id bigint NOT NULL CONSTRAINT raft_id_default DEFAULT (NEXT VALUE FOR {schema}.raft_no) CONSTRAINT raft_pk PRIMARY KEY, colour nvarchar(10) NULL);
INSERT INTO {schema}.raft VALUES (7000, N'red');                  -- fault: the next number is not past it
CREATE SEQUENCE {schema}.flag_no AS int START WITH 1;             -- fault: nothing uses it

-- Partitions.
CREATE PARTITION FUNCTION pf_swell (date) AS RANGE RIGHT FOR VALUES ('2023-01-01', '2024-01-01', '2025-01-01', '2026-01-01', '2027-01-01');
CREATE PARTITION SCHEME ps_swell AS PARTITION pf_swell ALL TO ([PRIMARY]);
CREATE TABLE {schema}.swell (id bigint NOT NULL, at date NULL, height_mm int NOT NULL CONSTRAINT swell_height_default DEFAULT ((0))) ON ps_swell(at);   -- fault: a null in the column that it is cut up by, no key, most rows in one part
INSERT INTO {schema}.swell (id, at) SELECT r.id, '2023-06-01' FROM {schema}.reading r WHERE r.id <= 12000;
INSERT INTO {schema}.swell (id, at) SELECT r.id, '2024-06-01' FROM {schema}.reading r WHERE r.id <= 900;
INSERT INTO {schema}.swell (id, at) SELECT r.id, '2025-06-01' FROM {schema}.reading r WHERE r.id <= 900;
INSERT INTO {schema}.swell (id, at) SELECT r.id, '2022-06-01' FROM {schema}.reading r WHERE r.id <= 900;

INSERT INTO {schema}.weather_sign (sign, says) VALUES (N'W1', N'rain'), (N'W2', N'gale'), (N'W3', N'fog');
INSERT INTO {schema}.logbook (station_id, year, book, page, keeper_id, boat_no, kept_in) SELECT s.id, 1950 + s.id, N'A', N'1', 1 + s.id % 6, s.id, s.id + 0.5 FROM {schema}.station s;
INSERT INTO {schema}.logbook_line (station_id, year, book, page, weather_id, level_mm) SELECT s.id, 1950 + s.id, N'A', N'1', 1 + s.id % 3, s.id - 3 FROM {schema}.station s;
UPDATE {schema}.logbook_line SET weather_id = 77 WHERE id = 7;
ALTER TABLE {schema}.logbook_line WITH NOCHECK ADD CONSTRAINT line_weather_fk FOREIGN KEY (weather_id) REFERENCES {schema}.weather_sign (id);   -- fault: one row has no parent
ALTER TABLE {schema}.logbook_line WITH NOCHECK ADD CONSTRAINT line_station_fk FOREIGN KEY (station_id) REFERENCES {schema}.station (id);        -- fault: never checked
ALTER TABLE {schema}.logbook_line WITH NOCHECK ADD CONSTRAINT line_level_check CHECK ([level_mm]>(0));    -- fault: three rows break it
ALTER TABLE {schema}.logbook_line WITH NOCHECK ADD CONSTRAINT line_year_check CHECK ([year]>(1900));      -- fault: never checked
ALTER TABLE {schema}.logbook_line ADD CONSTRAINT line_keeper_check CHECK ([keeperid]>(0));
ALTER TABLE {schema}.logbook_line NOCHECK CONSTRAINT line_keeper_check;                                   -- fault: switched off
CREATE INDEX logbook_line_station_id_idx ON {schema}.logbook_line (station_id);
INSERT INTO {schema}.harbour (name) VALUES (N'Kelp Harbour');
ALTER TABLE {schema}.pier NOCHECK CONSTRAINT pier_harbour_fk;     -- fault: switched off
CREATE INDEX bollard_half_idx ON {schema}.bollard (id, pier_id);
ALTER INDEX bollard_half_idx ON {schema}.bollard DISABLE;         -- fault: not built

CREATE TABLE {schema}.spray (id bigint IDENTITY(1,1) NOT NULL CONSTRAINT spray_pk PRIMARY KEY, flaw int NULL, watch int NOT NULL);
INSERT INTO {schema}.spray (flaw, watch) SELECT CASE WHEN r.id % 400 = 0 THEN r.id END, r.id % 3 FROM {schema}.reading r WHERE r.id <= 20000;
CREATE INDEX spray_flaw_idx ON {schema}.spray (flaw);             -- fault: hardly any row has one
CREATE INDEX spray_watch_idx ON {schema}.spray (watch);           -- fault: few values
CREATE TABLE {schema}.gone_list (id int NOT NULL CONSTRAINT gone_list_pk PRIMARY KEY);
GO
CREATE VIEW {schema}.gone_station AS SELECT g.id FROM {schema}.gone_list g                                -- fault: its table is gone
GO
DROP TABLE {schema}.gone_list;
GO
CREATE TRIGGER {schema}.visit_updates_station ON {schema}.visit AFTER INSERT AS
BEGIN
  SET NOCOUNT ON;
  UPDATE s SET last_visit_on = i.visited_on FROM {schema}.station s JOIN inserted i ON i.station_id = s.id;
END
GO
