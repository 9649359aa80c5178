-- Plans that call for an index by its name, in a view, a procedure and a trigger: each index repeats another one, or
-- begins as another does. The engine keeps a record of that.
-- as : SELECT * FROM by_region; EXECUTE PROCEDURE count_of('r1'); INSERT INTO station VALUES (1000, 'new', 'r1', 4.5); DELETE FROM station WHERE station_id = 7
-- goes: STATION_FREE
CREATE TABLE station (station_id INTEGER NOT NULL PRIMARY KEY, code VARCHAR(20) NOT NULL UNIQUE, region VARCHAR(10), height DOUBLE PRECISION);
CREATE TABLE seen (seen_no INTEGER NOT NULL PRIMARY KEY, what VARCHAR(20), n INTEGER);
COMMIT;
INSERT INTO station VALUES (1, 'c1', 'r1', 1.5);
INSERT INTO station VALUES (2, 'c2', 'r2', 2.5);
INSERT INTO station VALUES (7, 'c7', 'r1', 3.5);
COMMIT;
CREATE INDEX station_region ON station (region);
CREATE INDEX station_region_code ON station (region, code);
CREATE INDEX station_high ON station (height);
CREATE INDEX station_high_again ON station (height);
CREATE INDEX station_free ON station (height);
COMMIT;
CREATE VIEW by_region (region, n) AS SELECT region, count(*) FROM station WHERE region > '' GROUP BY region PLAN (station ORDER station_region);
SET TERM ^;
CREATE PROCEDURE count_of (of_region VARCHAR(10)) RETURNS (n INTEGER) AS BEGIN SELECT count(*) FROM station WHERE height > 1 PLAN (station INDEX (station_high_again)) INTO :n; SUSPEND; END^
CREATE TRIGGER station_new FOR station AFTER INSERT AS BEGIN INSERT INTO seen (seen_no, what, n) SELECT 1 + coalesce(max(seen_no), 0), NEW.code, (SELECT count(*) FROM station WHERE height > NEW.height PLAN (station INDEX (station_high))) FROM seen; END^
SET TERM ;^
COMMIT;
