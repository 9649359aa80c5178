-- Statements that call for an index by its name, in views and triggers: each index repeats another one, or begins as
-- another does. The one that a unique key has by itself can be called for as well.
-- as : SELECT * FROM by_region; INSERT INTO station VALUES (1000, 'new', 'r1', 4.5); SELECT * FROM by_code; DELETE FROM station WHERE station_id = 7; SELECT count(*) FROM "of own"; UPDATE station SET height = 2 WHERE code = 'c9'; SELECT what, n FROM seen ORDER BY 1, 2
-- as : INSERT INTO berth (pier, slot) VALUES ('P7', 7); UPDATE berth SET slot = 8 WHERE pier = 'P7'; INSERT INTO berth (pier, slot) VALUES ('P3', 4); SELECT pier, slot, times FROM berth_log ORDER BY 1, 2
CREATE TABLE station (station_id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE, region TEXT, height REAL);
WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) INSERT INTO station SELECT i, 'c' || i, 'r' || (i % 3), i * 1.5 FROM n;
CREATE INDEX station_region ON station (region);
CREATE INDEX station_region_code ON station (region, code);
CREATE INDEX "station, code" ON station (code);
CREATE INDEX station_high ON station (height);
CREATE INDEX station_high_again ON station (height);
CREATE TABLE seen (seen_no INTEGER PRIMARY KEY, what TEXT, n INT, note TEXT REFERENCES station (code));
CREATE INDEX seen_what ON seen (what);
CREATE INDEX seen_what_n ON seen (what, n);
CREATE VIEW by_region AS SELECT region, count(*) AS n FROM station INDEXED BY STATION_REGION WHERE region > '' GROUP BY region;
CREATE VIEW by_code AS SELECT s.code FROM main.station AS s INDEXED BY "station, code" WHERE s.code > 'c1' UNION ALL SELECT what FROM seen NOT INDEXED;
CREATE VIEW "of own" AS SELECT code FROM station INDEXED BY sqlite_autoindex_station_1 WHERE code > 'c5';
CREATE TRIGGER station_new AFTER INSERT ON station BEGIN INSERT INTO seen (what, n) SELECT NEW.code, count(*) FROM station INDEXED BY 'station_high' WHERE height > NEW.height; END;
CREATE TRIGGER station_gone AFTER DELETE ON station BEGIN UPDATE seen SET n = n + 1 WHERE seen_no IN (SELECT seen_no FROM seen INDEXED BY seen_what WHERE what = OLD.code); END;
CREATE TRIGGER station_moved AFTER UPDATE OF height ON station BEGIN INSERT INTO seen (what, n) SELECT code, 2 FROM station INDEXED BY station_high_again WHERE height = NEW.height; END;
CREATE TABLE berth (berth_no INTEGER PRIMARY KEY, pier TEXT NOT NULL, slot INT NOT NULL);
CREATE TABLE berth_log (pier TEXT NOT NULL UNIQUE, slot INT NOT NULL, times INT NOT NULL DEFAULT 1);
CREATE UNIQUE INDEX berth_log_slot ON berth_log (slot, pier);
CREATE UNIQUE INDEX berth_log_pier ON berth_log (pier, slot);
CREATE TRIGGER berth_new AFTER INSERT ON berth BEGIN INSERT INTO berth_log (pier, slot) VALUES (NEW.pier, NEW.slot) ON CONFLICT (SLOT, "pier") DO UPDATE SET times = times + 1; END;
