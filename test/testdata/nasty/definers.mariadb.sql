-- Definers, triggers and routines without lists of columns, comments of keys, hash indexes,
-- ignored indexes, generated columns, privileges of columns, events, views over views.
-- as tide_writer: INSERT INTO station (code, name) VALUES ('new', 'New'); UPDATE visit SET note = 'x' WHERE visit_no = 1
-- as tide_writer: CALL add_visit(1, 'by call')
-- as tide_reader: SELECT * FROM visit_list; SELECT code FROM station; SELECT station_name(1)
-- as : INSERT INTO reading (level, station_id) VALUES (3, 1); DELETE FROM reading WHERE station_id = 3
SET NAMES utf8mb4;
CREATE OR REPLACE USER tide_owner@localhost; CREATE OR REPLACE USER tide_reader@localhost; CREATE OR REPLACE USER tide_writer@localhost;
SET @db = database();
EXECUTE IMMEDIATE CONCAT('GRANT ALL ON `', @db, '`.* TO tide_owner@localhost');
CREATE TABLE station (station_id int unsigned AUTO_INCREMENT PRIMARY KEY COMMENT 'number', code varchar(20) NOT NULL, name varchar(50), UNIQUE KEY station_code (code) COMMENT 'on the plate', KEY by_name (name) COMMENT 'by name', KEY by_name_code (name, code)) ENGINE=InnoDB COMMENT='stations' ROW_FORMAT=DYNAMIC;
INSERT INTO station (code, name) SELECT CONCAT('S', seq), CONCAT('Station ', seq) FROM seq_1_to_150;
CREATE TABLE keeper (keeper_id bigint NOT NULL PRIMARY KEY, badge varchar(10) NOT NULL, UNIQUE KEY badge_1 (badge) COMMENT 'first', UNIQUE KEY badge_2 (badge) COMMENT 'second');
INSERT INTO keeper SELECT seq, CONCAT('B', seq) FROM seq_1_to_120;
CREATE TABLE visit (visit_no int NOT NULL, station_id int, keeper_id int, note varchar(100) DEFAULT 'none' COMMENT 'what was seen', doubled int AS (station_id * 2) VIRTUAL, KEY k (keeper_id) IGNORED, KEY n (note));
INSERT INTO visit (visit_no, station_id, keeper_id, note) SELECT seq, 1 + seq % 150, 1 + seq % 120, 'ok' FROM seq_1_to_200;
CREATE TABLE visit_log (visit_no int NOT NULL, at datetime NOT NULL DEFAULT current_timestamp());
CREATE TABLE reading (level int, station_id int unsigned, FOREIGN KEY reading_station (station_id) REFERENCES station (station_id) ON DELETE CASCADE);
INSERT INTO reading SELECT seq % 9, 1 + seq % 149 FROM seq_1_to_180;
DELIMITER //
CREATE DEFINER=tide_owner@localhost TRIGGER visit_logged AFTER INSERT ON visit FOR EACH ROW INSERT INTO visit_log VALUES (NEW.visit_no, now())//
CREATE DEFINER=tide_owner@localhost PROCEDURE add_visit(s int, n varchar(100)) SQL SECURITY DEFINER COMMENT 'adds one' BEGIN INSERT INTO visit (visit_no, station_id, keeper_id, note) VALUES (900, s, 1, n); END//
CREATE DEFINER=tide_owner@localhost FUNCTION station_name(i int) RETURNS varchar(50) READS SQL DATA RETURN (SELECT name FROM station WHERE station_id = i)//
CREATE DEFINER=tide_owner@localhost EVENT nightly ON SCHEDULE EVERY 1 DAY STARTS '2030-01-01' ON COMPLETION PRESERVE DISABLE COMMENT 'nightly' DO DELETE FROM visit_log WHERE at < now() - INTERVAL 1 YEAR//
DELIMITER ;
CREATE DEFINER=tide_owner@localhost SQL SECURITY DEFINER VIEW visit_list AS SELECT v.visit_no, v.note, s.code FROM visit v JOIN station s ON s.station_id = v.station_id;
CREATE DEFINER=tide_owner@localhost SQL SECURITY INVOKER VIEW visit_short AS SELECT note FROM visit_list;
EXECUTE IMMEDIATE CONCAT('GRANT SELECT, INSERT ON `', @db, '`.station TO tide_writer@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT SELECT, UPDATE (note) ON `', @db, '`.visit TO tide_writer@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT EXECUTE ON `', @db, '`.* TO tide_writer@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT SELECT ON `', @db, '`.visit_list TO tide_reader@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT SELECT (code) ON `', @db, '`.station TO tide_reader@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT EXECUTE ON FUNCTION `', @db, '`.station_name TO tide_reader@localhost');
