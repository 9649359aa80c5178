-- Options of indexes, partitions of partitions, storage engines, periods of time, columns kept
-- compressed, full-text, spatial and hash indexes, tables without a key, triggers in their order.
-- as : INSERT INTO nopk VALUES (900, '{}', 1, 1, 't'); UPDATE gauge SET title = 'x' WHERE gauge_id = 1
-- as : INSERT INTO reading (reading_id, station_id, at) VALUES (900, 1, '2026-05-01'); SELECT count(*) FROM mm
-- as : INSERT INTO booking VALUES (900, 1, '2024-03-01', '2024-04-01', 1); SELECT agg_first(station_id) FROM station; CALL bs()
SET NAMES utf8mb4;
CREATE OR REPLACE USER tide_keeper@localhost;
CREATE TABLE station (station_id int PRIMARY KEY, code varchar(20) NOT NULL, name varchar(60), note text COMPRESSED, UNIQUE KEY code (code) USING BTREE, KEY name (name) USING HASH COMMENT 'h', KEY name2 (name, code) USING BTREE, KEY name3 (name) KEY_BLOCK_SIZE=8);
INSERT INTO station SELECT seq, CONCAT('S', seq), CONCAT('n', seq % 50), 'x' FROM seq_1_to_200;
CREATE TABLE gauge (gauge_id bigint PRIMARY KEY, station_id bigint NOT NULL, serial varchar(30) NOT NULL, info json, body mediumtext, title varchar(100), UNIQUE KEY body_u (body) USING HASH, FULLTEXT KEY ft1 (body), FULLTEXT KEY ft2 (title), KEY st (station_id) USING BTREE, KEY st2 (station_id, serial));
INSERT INTO gauge SELECT seq, 1 + seq % 200, CONCAT('G', seq), '{"a":1}', CONCAT('b', seq), 't' FROM seq_1_to_300;
CREATE TABLE booking (booking_id int NOT NULL, gauge_id bigint NOT NULL, s date NOT NULL, e date NOT NULL, PERIOD FOR p (s, e), UNIQUE KEY u (booking_id, p WITHOUT OVERLAPS), station_id int);
INSERT INTO booking SELECT seq, 1 + seq % 300, '2024-01-01', '2024-02-01', 1 + seq % 200 FROM seq_1_to_250;
CREATE TABLE hist (hist_id int, station_id int, level int) WITH SYSTEM VERSIONING PARTITION BY SYSTEM_TIME LIMIT 1000 (PARTITION p0 HISTORY, PARTITION p1 HISTORY, PARTITION pc CURRENT);
INSERT INTO hist SELECT seq, 1 + seq % 200, 5 FROM seq_1_to_200;
CREATE TABLE reading (reading_id int NOT NULL, station_id int NOT NULL, at date NOT NULL, PRIMARY KEY (reading_id, at, station_id), KEY x (station_id), KEY x2 (station_id)) PARTITION BY RANGE (YEAR(at)) SUBPARTITION BY HASH (station_id) SUBPARTITIONS 2 (PARTITION p2025 VALUES LESS THAN (2026) (SUBPARTITION sx, SUBPARTITION sy), PARTITION p2026 VALUES LESS THAN (2027) COMMENT "now" (SUBPARTITION sa, SUBPARTITION sb COMMENT "x"));
INSERT INTO reading SELECT seq, 1 + seq % 200, '2026-01-01' FROM seq_1_to_200;
CREATE TABLE m1 (a int, station_id int, KEY (a), KEY a2 (a)) ENGINE=MyISAM; CREATE TABLE m2 LIKE m1; CREATE TABLE mm (a int, station_id int, KEY (a), KEY a2(a)) ENGINE=MERGE UNION=(m1,m2) INSERT_METHOD=LAST;
INSERT INTO m1 SELECT seq, 1 + seq % 200 FROM seq_1_to_200;
CREATE TABLE cs (a int NOT NULL, station_id int NOT NULL) ENGINE=CSV;
INSERT INTO cs SELECT seq, 1 + seq % 200 FROM seq_1_to_200;
CREATE TABLE mem (a int, station_id int, KEY a (a) USING HASH, KEY a2 (a) USING BTREE) ENGINE=MEMORY;
CREATE TABLE ar (a int AUTO_INCREMENT PRIMARY KEY, station_id int) ENGINE=Aria TRANSACTIONAL=1 PAGE_CHECKSUM=1;
CREATE TABLE nopk (a int, info json, station_id int, gauge_id bigint, title varchar(20), FULLTEXT KEY (title)) ROW_FORMAT=COMPRESSED KEY_BLOCK_SIZE=8 STATS_PERSISTENT=1;
INSERT INTO nopk SELECT seq, '{}', 1 + seq % 200, 1 + seq % 300, 'x' FROM seq_1_to_220;
DELIMITER //
CREATE AGGREGATE FUNCTION agg_first(x int) RETURNS int BEGIN DECLARE r int DEFAULT 0; DECLARE CONTINUE HANDLER FOR NOT FOUND RETURN r; LOOP FETCH GROUP NEXT ROW; SET r = r + x; END LOOP; END//
SET sql_mode='NO_BACKSLASH_ESCAPES'//
CREATE PROCEDURE bs() BEGIN SELECT 'a\' AS x, "q""x\" ; END//
CREATE TRIGGER nopk_bi BEFORE INSERT ON nopk FOR EACH ROW SET NEW.title = 'c:\'//
SET sql_mode=DEFAULT//
CREATE TRIGGER nopk_bi2 BEFORE INSERT ON nopk FOR EACH ROW FOLLOWS nopk_bi SET NEW.info = '{}'//
CREATE TRIGGER nopk_bi0 BEFORE INSERT ON nopk FOR EACH ROW PRECEDES nopk_bi SET NEW.info = '[]'//
CREATE DEFINER=tide_keeper@localhost EVENT nightly ON SCHEDULE EVERY '1:30' HOUR_MINUTE STARTS '2030-01-01' ON COMPLETION PRESERVE DISABLE COMMENT 'n' DO DELETE FROM nopk//
DELIMITER ;
CREATE VIEW v AS SELECT s.station_id, n.a FROM station s JOIN nopk n ON n.station_id = s.station_id;
