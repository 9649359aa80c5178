-- Keys of prefixes, references to what is not unique, names that differ in capitals alone, columns that are named
-- like words, defaults by expressions, routines and triggers that count columns, lists with the rest, tables of
-- other places and forms, numbers that begin elsewhere.
-- as : INSERT INTO gauge (gauge_no, `select`, Station_id) VALUES (9001, 'x', 3); UPDATE Gauge SET note = 'y' WHERE id = 2; CALL copy_gauge(4); INSERT INTO spare VALUES (901, 'p901', 3)
-- as : INSERT INTO reading (at, shore, level) VALUES ('2024-05-01', 9, 1); SELECT * FROM per_shore; INSERT INTO visit (station_id) VALUES (3); SELECT spare_count(3); INSERT INTO tail (body) VALUES (REPEAT('q', 90))
-- as : SELECT uuid_of(1) IS NULL; INSERT INTO deep.mark (gauge_no) VALUES (5); INSERT INTO `odd ``name` VALUES (901, 3, 'w'); DELETE FROM visit WHERE visit_id = 1007
SET NAMES utf8mb4;
CREATE DATABASE IF NOT EXISTS deep; CREATE OR REPLACE USER tide_count@localhost;
CREATE TABLE station (id bigint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(80) CHARACTER SET latin1 COLLATE latin1_general_cs NOT NULL, KEY code_some (code(5)), KEY code_more (code(20)), opened datetime(2) NOT NULL DEFAULT current_timestamp(2) ON UPDATE current_timestamp(2), tag char(36) DEFAULT (uuid()), shape point) AUTO_INCREMENT=1000 CHECKSUM=1 MIN_ROWS=10 ROW_FORMAT=REDUNDANT COMMENT='it''s "here" \\ ';
INSERT INTO station (id, code) SELECT seq, CONCAT('S-', seq) FROM seq_1_to_140;
CREATE TABLE gauge (gauge_no int NOT NULL, `select` varchar(20), Station_id bigint unsigned, note text, KEY (gauge_no), KEY `select` (`select`), KEY again (`select`), made date DEFAULT (curdate()), twice int AS (gauge_no * 2) VIRTUAL, UNIQUE KEY twice_u (twice)) PAGE_COMPRESSED=1;
INSERT INTO gauge (gauge_no, `select`, Station_id) SELECT seq, CONCAT('g', seq % 9), 1 + seq % 140 FROM seq_1_to_260;
CREATE TABLE Gauge (id int PRIMARY KEY, note varchar(20), gauge_no int, CONSTRAINT to_some FOREIGN KEY (gauge_no) REFERENCES gauge (gauge_no) ON UPDATE CASCADE); INSERT INTO Gauge SELECT seq, 'n', seq FROM seq_1_to_110;
CREATE OR REPLACE TABLE deep.mark (mark_id int AUTO_INCREMENT PRIMARY KEY, gauge_no int); INSERT INTO deep.mark (gauge_no) SELECT seq FROM seq_1_to_5;
CREATE TABLE spare (spare_no int NOT NULL, name varchar(30) NOT NULL, station_id bigint unsigned NOT NULL); INSERT INTO spare SELECT seq, CONCAT('p', seq), 1 + seq % 140 FROM seq_1_to_150;
CREATE TABLE visit (visit_id int NOT NULL AUTO_INCREMENT, station_id int, seen timestamp NULL, how enum('by sea','by land','') DEFAULT '', UNIQUE KEY v (visit_id), KEY st (station_id) COMMENT 'of it', KEY st2 (station_id)) AUTO_INCREMENT=1001; INSERT INTO visit (station_id) SELECT 1 + seq % 140 FROM seq_1_to_160; DELETE FROM visit WHERE visit_id > 1150;
CREATE TABLE reading (at date NOT NULL, shore int NOT NULL, level int, KEY lv (level), KEY lv2 (level, shore), KEY lv3 (level)) PARTITION BY LIST (shore) (PARTITION north VALUES IN (1, 2), PARTITION south VALUES IN (3), PARTITION rest DEFAULT); INSERT INTO reading SELECT '2024-01-01' + INTERVAL seq DAY, seq % 5, seq % 3 FROM seq_1_to_210;
CREATE TABLE tail (tail_id int AUTO_INCREMENT, body blob, PRIMARY KEY (tail_id), UNIQUE KEY body_u (body(40)), KEY body_k (body(10)) USING BTREE); INSERT INTO tail (body) SELECT CONCAT(REPEAT('z', 30), seq) FROM seq_1_to_115;
CREATE TABLE `odd ``name` (a int PRIMARY KEY, `b c` int, `d"e` varchar(9) CHECK (`d"e` <> '`'), CONSTRAINT `k ``1` CHECK (`b c` > 0 or `b c` is null), KEY `i ``1` (`b c`), KEY `i 2` (`b c`)); INSERT INTO `odd ``name` SELECT seq, 1 + seq % 140, 'w' FROM seq_1_to_125;
DELIMITER //
CREATE PROCEDURE copy_gauge(n int) BEGIN INSERT INTO spare SELECT spare_no + 1000, name, station_id FROM spare WHERE spare_no = n; INSERT INTO spare VALUES (n + 2000, 'c', 3); END//
CREATE FUNCTION spare_count(n int) RETURNS int READS SQL DATA BEGIN DECLARE x, y int; DECLARE z varchar(30); DECLARE c CURSOR FOR SELECT * FROM spare; OPEN c; FETCH c INTO x, z, y; CLOSE c; RETURN (SELECT count(*) FROM spare WHERE station_id = n); END//
CREATE FUNCTION uuid_of(n int) RETURNS char(36) READS SQL DATA RETURN (SELECT tag FROM station WHERE id = n)//
CREATE TRIGGER visit_in BEFORE INSERT ON visit FOR EACH ROW SET NEW.seen = IFNULL(NEW.seen, NOW())//
CREATE TRIGGER spare_in AFTER INSERT ON spare FOR EACH ROW INSERT INTO deep.mark (gauge_no) VALUES (NEW.spare_no)//
DELIMITER ;
CREATE VIEW per_shore AS SELECT shore, count(*) AS n FROM reading GROUP BY shore; CREATE SQL SECURITY INVOKER VIEW both_gauges AS SELECT g.gauge_no, b.note FROM gauge g JOIN Gauge b ON b.gauge_no = g.gauge_no;
SET @db = database(); EXECUTE IMMEDIATE CONCAT('GRANT SELECT (gauge_no, note), UPDATE (note) ON `', @db, '`.gauge TO tide_count@localhost'); EXECUTE IMMEDIATE CONCAT('GRANT INSERT ON `', @db, '`.visit TO tide_count@localhost');
ANALYZE TABLE station, gauge, spare, visit, reading;
