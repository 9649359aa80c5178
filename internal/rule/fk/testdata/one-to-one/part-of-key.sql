-- probe
-- no example
-- Lines of a sheet are numbered, though there is one each so far.
CREATE TABLE sheet (id integer NOT NULL PRIMARY KEY);
CREATE TABLE line (sheet_id integer NOT NULL, line_no integer NOT NULL, PRIMARY KEY (sheet_id, line_no), CONSTRAINT line_sheet FOREIGN KEY (sheet_id) REFERENCES sheet (id));
INSERT INTO sheet VALUES (1), (2), (3), (4), (5), (6), (7), (8), (9), (10), (11), (12), (13), (14), (15), (16), (17), (18), (19), (20), (21), (22), (23), (24), (25), (26), (27), (28), (29), (30), (31), (32), (33), (34), (35), (36), (37), (38), (39), (40);
INSERT INTO line VALUES (1, 1), (2, 1), (3, 1), (4, 1), (5, 1), (6, 1), (7, 1), (8, 1), (9, 1), (10, 1), (11, 1), (12, 1), (13, 1), (14, 1), (15, 1), (16, 1), (17, 1), (18, 1), (19, 1), (20, 1), (21, 1), (22, 1), (23, 1), (24, 1), (25, 1), (26, 1), (27, 1), (28, 1), (29, 1), (30, 1), (31, 1), (32, 1), (33, 1), (34, 1), (35, 1), (36, 1), (37, 1), (38, 1), (39, 1), (40, 1);
