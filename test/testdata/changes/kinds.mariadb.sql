-- Indexes that change their kind under their name, dates, triggers in their order, aggregates,
-- events, texts in which a backslash is one.
-- stays: EVENT .nightly.
CREATE OR REPLACE USER tide_keeper@localhost;
CREATE TABLE station (station_id int PRIMARY KEY, code varchar(20) NOT NULL, name varchar(60), opened date, closed date, seen datetime, KEY name (name), KEY code (code), UNIQUE KEY opened (opened) COMMENT 'o', KEY closed (closed) USING BTREE) COMMENT 'c';
INSERT INTO station SELECT seq, CONCAT('S', seq), CONCAT('n', seq % 50), '2024-01-01' + INTERVAL seq DAY, '2024-01-01', '2024-01-01 00:00:00' FROM seq_1_to_200;
CREATE TABLE log (x int);
DELIMITER //
CREATE TRIGGER t1 BEFORE INSERT ON station FOR EACH ROW SET NEW.name = 'one'//
CREATE TRIGGER t3 BEFORE INSERT ON station FOR EACH ROW SET NEW.name = 'three'//
CREATE DEFINER=tide_keeper@localhost EVENT nightly ON SCHEDULE EVERY 1 DAY STARTS '2030-01-01' DISABLE DO DELETE FROM log//
CREATE AGGREGATE FUNCTION agg(x int) RETURNS int BEGIN DECLARE r int DEFAULT 0; DECLARE CONTINUE HANDLER FOR NOT FOUND RETURN r; LOOP FETCH GROUP NEXT ROW; SET r = r + x; END LOOP; END//
SET sql_mode='NO_BACKSLASH_ESCAPES'//
CREATE PROCEDURE bs() COMMENT 'c:\x' BEGIN SELECT 'a\' AS x; END//
CREATE EVENT bse ON SCHEDULE EVERY 1 DAY STARTS '2030-01-01' DISABLE COMMENT 'c:\y' DO DELETE FROM log WHERE x = 'a\'//
DELIMITER ;
-- becomes
SET NAMES utf8mb4;
CREATE TABLE station (station_id int PRIMARY KEY, code varchar(20) NOT NULL, name varchar(60), opened datetime, closed date, seen date, FULLTEXT KEY name (name), UNIQUE KEY code (code), KEY opened (opened) COMMENT 'o2', KEY closed (closed) USING HASH) COMMENT 'c2';
CREATE TABLE log (x int);
DELIMITER //
CREATE TRIGGER t1 BEFORE INSERT ON station FOR EACH ROW SET NEW.name = 'one'//
CREATE TRIGGER t2 BEFORE INSERT ON station FOR EACH ROW SET NEW.name = 'two'//
CREATE TRIGGER t3 BEFORE INSERT ON station FOR EACH ROW SET NEW.name = 'three'//
CREATE EVENT nightly ON SCHEDULE EVERY 2 DAY STARTS '2030-01-01' DISABLE DO DELETE FROM log//
CREATE AGGREGATE FUNCTION agg(x int) RETURNS int BEGIN DECLARE r int DEFAULT 1; DECLARE CONTINUE HANDLER FOR NOT FOUND RETURN r; LOOP FETCH GROUP NEXT ROW; SET r = r + x; END LOOP; END//
SET sql_mode='NO_BACKSLASH_ESCAPES'//
CREATE PROCEDURE bs() COMMENT 'c:\z' BEGIN SELECT 'b\' AS x; END//
DELIMITER ;
