-- References whose columns have another collation than the key: the engine compares them by that of the key, and
-- nobody else does without saying by which.
-- as : SELECT count(*) FROM gauge g JOIN station s ON s.code = g.station_code COLLATE "C"; INSERT INTO visit VALUES (900, 'ST3', 'ST9', 'st5'); DELETE FROM visit WHERE id = 900
-- goes: station_code
CREATE SCHEMA "Odd";
CREATE COLLATION nocase (provider = icu, locale = 'und-u-ks-level2', deterministic = false);
CREATE COLLATION "Odd"."as ""we"" say" (provider = icu, locale = 'de-AT');
CREATE TABLE station (code text COLLATE "C" PRIMARY KEY, name text COLLATE "Odd"."as ""we"" say" NOT NULL UNIQUE);
CREATE TABLE gauge (id bigint PRIMARY KEY, station_code text COLLATE "en-x-icu" NOT NULL, station_name text);
CREATE TABLE visit (id bigint PRIMARY KEY, station_code text NOT NULL, next_station_code text COLLATE "POSIX", old_station_code varchar(20) COLLATE nocase);
INSERT INTO station SELECT 'ST' || i, 'Station ' || i FROM generate_series(1, 300) i;
INSERT INTO gauge SELECT i, 'ST' || (i % 300 + 1), 'Station ' || (i % 300 + 1) FROM generate_series(1, 500) i;
INSERT INTO visit SELECT i, 'ST' || (i % 300 + 1), 'ST' || (i % 299 + 1), 'st' || (i % 280 + 1) FROM generate_series(1, 500) i;
ALTER TABLE gauge ADD CONSTRAINT gauge_station FOREIGN KEY (station_code) REFERENCES station NOT VALID;
ALTER TABLE gauge ADD CONSTRAINT gauge_named FOREIGN KEY (station_name) REFERENCES station (name) NOT VALID;
