-- Statements that call for an index by its name, in views, routines, triggers and strings: each index repeats another
-- one, begins as another does, or is searched by nobody.
-- as : SELECT * FROM by_region; CALL count_of('r1'); CALL count_by('r2'); INSERT INTO station (code, region, height) VALUES ('new', 'r1', 4); SELECT highest('r1'); SELECT * FROM joined; DELETE FROM station WHERE code = 'c7'
-- as : UPDATE gauge SET note = 'seen' WHERE gauge_no = 3; INSERT INTO gauge (station_id, note) VALUES (5, 'x'); SELECT * FROM kept; CALL tidy()
-- goes: station_free|gauge_note_free|gauge_again_free
CREATE TABLE station (station_id int NOT NULL AUTO_INCREMENT, code varchar(20) NOT NULL, region varchar(10), height double, PRIMARY KEY (station_id),
  KEY station_region (region), KEY station_region_code (region, code), UNIQUE KEY station_code (code), KEY station_code_again (code), KEY `station, code` (code), KEY station_free (code));
INSERT INTO station (code, region, height) SELECT concat('c', seq), concat('r', seq % 3), seq * 1.5 FROM seq_1_to_200;
CREATE TABLE gauge (gauge_no int NOT NULL AUTO_INCREMENT PRIMARY KEY, station_id int NOT NULL, note varchar(40), KEY gauge_station (station_id), KEY gauge_note (note), KEY gauge_note_no (note, gauge_no), KEY gauge_note_free (note),
  KEY GAUGE_AGAIN (station_id, note), KEY gauge_again_free (station_id, note), CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (station_id) ON DELETE CASCADE);
INSERT INTO gauge (station_id, note) SELECT 1 + seq % 150, concat('n', seq % 40) FROM seq_1_to_300;
CREATE TABLE seen (seen_no bigint NOT NULL AUTO_INCREMENT PRIMARY KEY, what varchar(40), n int);
CREATE VIEW by_region AS SELECT region, count(*) AS n FROM station FORCE INDEX (station_region) GROUP BY region;
CREATE VIEW joined AS SELECT s.code, g.note FROM station s USE INDEX (`station, code`) JOIN gauge AS g IGNORE KEY FOR JOIN (gauge_note) ON g.station_id = s.station_id;
CREATE VIEW kept AS SELECT note FROM gauge USE INDEX FOR ORDER BY (gauge_again) ORDER BY station_id, note;
DELIMITER //
CREATE PROCEDURE count_of(of_region varchar(10)) BEGIN SELECT count(*) FROM station USE INDEX (station_region) WHERE region = of_region; END//
CREATE PROCEDURE count_by(of_region varchar(10)) BEGIN PREPARE q FROM 'SELECT count(*) FROM station FORCE INDEX (station_code_again) WHERE code > ?'; SET @r = of_region; EXECUTE q USING @r; DEALLOCATE PREPARE q; END//
CREATE FUNCTION highest(of_region varchar(10)) RETURNS double READS SQL DATA RETURN (SELECT max(height) FROM station FORCE INDEX FOR GROUP BY (`station_region`) WHERE region = of_region)//
CREATE PROCEDURE tidy() BEGIN DELETE g FROM gauge AS g FORCE INDEX (gauge_note_no) WHERE note = 'n39'; END//
CREATE TRIGGER station_new AFTER INSERT ON station FOR EACH ROW INSERT INTO seen (what, n) SELECT NEW.code, count(*) FROM gauge USE INDEX (gauge_note) WHERE note = NEW.code//
CREATE EVENT look ON SCHEDULE EVERY 1 YEAR STARTS '2037-01-01' DISABLE DO INSERT INTO seen (what, n) SELECT code, 1 FROM station FORCE INDEX (`station, code`) WHERE code = 'c1'//
DELIMITER ;
