-- not mysql: a column has a name that it reserves
-- References that nothing declares and that were accepted: the foreign key
-- comes with its index, and goes again.
-- probe
-- accept all
-- the fix brings fk/enforcement-off on sqlite: there was nothing to enforce before
-- the fix ends key/generated-only on sqlite: what refers says whose row it is
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(8) NOT NULL UNIQUE);
CREATE TABLE visit_day (
  station_id integer NOT NULL,                     -- want: fk/missing "station_id refers to station"
  day integer NOT NULL, PRIMARY KEY (station_id, day)
);
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY);

CREATE TABLE visit (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL,                     -- want: fk/missing "station_id refers to station .id. in all of 30 rows, as was decided", fk/one-to-one (no fix)
  keeper_id integer,                                -- want: fk/missing "keeper_id refers to keeper"
  station_code varchar(8) NOT NULL,                -- want: fk/missing, fk/one-to-one (no fix)
  minutes integer, rank integer
);
CREATE INDEX visit_keeper ON visit (keeper_id, id);

-- One row has no parent: nothing is offered.
CREATE TABLE gauge (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL                      -- want: fk/missing "all but 1 of 60 rows .without a parent: 999" (no fix)
);

-- Two columns together, whose key is a combined one.
CREATE TABLE day_note (
  id integer NOT NULL PRIMARY KEY,
  station_id integer NOT NULL, day integer NOT NULL, -- want: fk/missing "to visit_day|visit_day", fk/one-to-one (no fix)
  note varchar(20)
);

INSERT INTO station VALUES (1, 'S01'), (2, 'S02'), (3, 'S03'), (4, 'S04'), (5, 'S05'), (6, 'S06'), (7, 'S07'), (8, 'S08'), (9, 'S09'), (10, 'S10'), (11, 'S11'), (12, 'S12'), (13, 'S13'), (14, 'S14'), (15, 'S15'), (16, 'S16'), (17, 'S17'), (18, 'S18'), (19, 'S19'), (20, 'S20'), (21, 'S21'), (22, 'S22'), (23, 'S23'), (24, 'S24'), (25, 'S25'), (26, 'S26'), (27, 'S27'), (28, 'S28'), (29, 'S29'), (30, 'S30'), (31, 'S31'), (32, 'S32'), (33, 'S33'), (34, 'S34'), (35, 'S35'), (36, 'S36'), (37, 'S37'), (38, 'S38'), (39, 'S39'), (40, 'S40');
INSERT INTO keeper VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9), (10), (11), (12), (13), (14), (15), (16), (17), (18), (19), (20);
INSERT INTO visit VALUES (1, 6, 2, 'S01', 3, 1), (2, 7, 3, 'S02', 6, 1), (3, 8, 4, 'S03', 9, 1), (4, 9, 5, 'S04', 12, 1), (5, 10, 6, 'S05', 15, 1), (6, 11, 7, 'S06', 18, 1), (7, 12, 8, 'S07', 21, 1), (8, 13, 9, 'S08', 24, 1), (9, 14, 10, 'S09', 27, 1), (10, 15, 11, 'S10', 30, 1), (11, 16, 12, 'S11', 33, 1), (12, 17, 13, 'S12', 36, 1), (13, 18, 14, 'S13', 39, 1), (14, 19, 15, 'S14', 42, 1), (15, 20, 16, 'S15', 45, 1), (16, 21, 17, 'S16', 48, 1), (17, 22, 18, 'S17', 51, 1), (18, 23, 19, 'S18', 54, 1), (19, 24, 20, 'S19', 57, 1), (20, 25, 1, 'S20', 60, 1), (21, 26, 2, 'S21', 63, 1), (22, 27, 3, 'S22', 66, 1), (23, 28, 4, 'S23', 69, 1), (24, 29, 5, 'S24', 72, 1), (25, 30, 6, 'S25', 75, 1), (26, 31, 7, 'S26', 78, 1), (27, 32, 8, 'S27', 81, 1), (28, 33, 9, 'S28', 84, 1), (29, 34, 10, 'S29', 87, 1), (30, 35, 11, 'S30', 90, 1);
INSERT INTO gauge VALUES (1, 2), (2, 3), (3, 4), (4, 5), (5, 6), (6, 7), (7, 8), (8, 9), (9, 10), (10, 11), (11, 12), (12, 13), (13, 14), (14, 15), (15, 16), (16, 17), (17, 18), (18, 19), (19, 20), (20, 21), (21, 22), (22, 23), (23, 24), (24, 25), (25, 26), (26, 27), (27, 28), (28, 29), (29, 30), (30, 31), (31, 32), (32, 33), (33, 34), (34, 35), (35, 36), (36, 37), (37, 38), (38, 39), (39, 40), (40, 1), (41, 2), (42, 3), (43, 4), (44, 5), (45, 6), (46, 7), (47, 8), (48, 9), (49, 10), (50, 11), (51, 12), (52, 13), (53, 14), (54, 15), (55, 16), (56, 17), (57, 18), (58, 19), (59, 20), (60, 999);
INSERT INTO visit_day VALUES (1, 2), (1, 5), (2, 1), (2, 4), (2, 7), (3, 3), (3, 6), (4, 2), (4, 5), (5, 1), (5, 4), (5, 7), (6, 3), (6, 6), (7, 2), (7, 5), (8, 1), (8, 4), (8, 7), (9, 3), (9, 6), (10, 2), (10, 5), (11, 1), (11, 4), (11, 7), (12, 3), (12, 6), (13, 2), (13, 5), (14, 1), (14, 4), (14, 7), (15, 3), (15, 6), (16, 2), (16, 5), (17, 1), (17, 4), (17, 7), (18, 3), (18, 6), (19, 2), (19, 5), (20, 1), (20, 4), (20, 7), (21, 3), (21, 6), (22, 2), (22, 5), (23, 1), (23, 4), (23, 7), (24, 3), (24, 6), (25, 2), (25, 5), (26, 1), (26, 4), (26, 7), (27, 3), (27, 6), (28, 2), (28, 5), (29, 1), (29, 4), (29, 7), (30, 3), (30, 6), (31, 2), (31, 5), (32, 1), (32, 4), (32, 7), (33, 3), (33, 6), (34, 2), (34, 5), (35, 1), (35, 4), (35, 7), (36, 3), (36, 6), (37, 2), (37, 5), (38, 1), (38, 4), (38, 7), (39, 3), (39, 6), (40, 2), (40, 5);
INSERT INTO day_note VALUES (1, 1, 2, 'x'), (2, 1, 5, 'x'), (3, 2, 1, 'x'), (4, 2, 4, 'x'), (5, 2, 7, 'x'), (6, 3, 3, 'x'), (7, 3, 6, 'x'), (8, 4, 2, 'x'), (9, 4, 5, 'x'), (10, 5, 1, 'x'), (11, 5, 4, 'x'), (12, 5, 7, 'x'), (13, 6, 3, 'x'), (14, 6, 6, 'x'), (15, 7, 2, 'x'), (16, 7, 5, 'x'), (17, 8, 1, 'x'), (18, 8, 4, 'x'), (19, 8, 7, 'x'), (20, 9, 3, 'x'), (21, 9, 6, 'x'), (22, 10, 2, 'x'), (23, 10, 5, 'x'), (24, 11, 1, 'x'), (25, 11, 4, 'x'), (26, 11, 7, 'x'), (27, 12, 3, 'x'), (28, 12, 6, 'x'), (29, 13, 2, 'x'), (30, 13, 5, 'x'), (31, 14, 1, 'x'), (32, 14, 4, 'x'), (33, 14, 7, 'x'), (34, 15, 3, 'x'), (35, 15, 6, 'x'), (36, 16, 2, 'x'), (37, 16, 5, 'x'), (38, 17, 1, 'x'), (39, 17, 4, 'x'), (40, 17, 7, 'x');
