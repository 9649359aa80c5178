-- Foreign keys that tie types, keys in several orders, zero dates, sets, generated numbers, MyISAM, sequences,
-- partitions by key and by range, views over views, roles.
-- as : CALL add_g(); SELECT gcount(500); INSERT INTO gv (id, station_id, w) VALUES (9001, 501, 3); SELECT * FROM gv2; INSERT INTO part VALUES (900, '2026-05-01', 500); INSERT INTO c1 (x, y) VALUES (5, 900)
SET NAMES utf8mb4; SET sql_mode = '';
CREATE OR REPLACE USER tide_hand@localhost; CREATE OR REPLACE ROLE tide_crew; GRANT tide_crew TO tide_hand@localhost;
CREATE TABLE station (id int unsigned NOT NULL AUTO_INCREMENT, code varchar(10) CHARACTER SET ascii NOT NULL DEFAULT '', opened date NOT NULL DEFAULT '0000-00-00', st enum('a','b') DEFAULT 'a', flags set('x','y') NOT NULL DEFAULT 'x,y', note text DEFAULT (concat('n', 'x')), changed timestamp NULL ON UPDATE current_timestamp(), geo point, PRIMARY KEY (id), KEY code_pre (code(4)), KEY c2 (code)) ENGINE=InnoDB AUTO_INCREMENT=500 COMMENT='it''s \\ "quoted"' ROW_FORMAT=COMPACT;
INSERT INTO station (code) SELECT CONCAT('S', seq) FROM seq_1_to_150;
CREATE TABLE gauge (id bigint unsigned NOT NULL, station_id int NOT NULL, parent_id bigint, model varchar(30) COLLATE latin1_german1_ci, w decimal(8,3) unsigned zerofill, made year, t time(3), b bit(5) DEFAULT b'101', dbl double AS (w * 2) STORED, KEY dbl (dbl), KEY station_id (station_id), CONSTRAINT `ck'1` CHECK (w >= 0)) ENGINE=InnoDB;
INSERT INTO gauge (id, station_id, parent_id, model, w) SELECT seq, 500 + seq % 150, NULLIF(seq % 20, 0), CONCAT('m', seq % 7), seq FROM seq_1_to_260; UPDATE gauge SET model = NULL, w = NULL, parent_id = NULL, b = NULL WHERE id = 3;
CREATE TABLE child (id int PRIMARY KEY, gauge_id int, s_code varchar(20) NOT NULL DEFAULT '', k varchar(5), KEY (k)); INSERT INTO child SELECT seq, 1 + seq % 260, CONCAT('S', 1 + seq % 150), 'k' FROM seq_1_to_270;
CREATE TABLE a1 (id int PRIMARY KEY, b_id smallint, CONSTRAINT a_self FOREIGN KEY (id) REFERENCES child (id) ON DELETE CASCADE ON UPDATE CASCADE); INSERT INTO a1 SELECT seq, seq FROM seq_1_to_120;
CREATE TABLE b1 (id int NOT NULL, UNIQUE KEY uu (id), KEY kk (id)); INSERT INTO b1 SELECT seq FROM seq_1_to_130;
CREATE TABLE c1 (x int, y int, UNIQUE KEY xy (x, y), KEY yx (y, x), CONSTRAINT c1_f FOREIGN KEY (x) REFERENCES b1 (id) ON DELETE SET NULL); INSERT INTO c1 SELECT seq % 130 + 1, seq FROM seq_1_to_150;
CREATE TABLE mi (id int, station_id int unsigned, KEY (station_id), KEY s2 (station_id)) ENGINE=MyISAM DELAY_KEY_WRITE=1; INSERT INTO mi SELECT seq, 500 + seq % 150 FROM seq_1_to_140;
CREATE TABLE log1 (what varchar(200));
CREATE SEQUENCE sq START WITH 5 INCREMENT BY 3 CYCLE MAXVALUE 1000; CREATE TABLE sqt (id bigint NOT NULL DEFAULT nextval(sq), v int); INSERT INTO sqt (v) SELECT seq FROM seq_1_to_120;
CREATE TABLE part (id int NOT NULL, d date NOT NULL, station_id int unsigned, PRIMARY KEY (id, d)) PARTITION BY RANGE COLUMNS (d) (PARTITION p2025 VALUES LESS THAN ('2026-01-01'), PARTITION p2026 VALUES LESS THAN ('2027-01-01')); INSERT INTO part SELECT seq, '2026-03-01', 500 + seq % 150 FROM seq_1_to_130;
CREATE TABLE kp (id int NOT NULL PRIMARY KEY, x int, KEY (x), KEY x2 (x)) PARTITION BY KEY (id) PARTITIONS 3; INSERT INTO kp SELECT seq, seq FROM seq_1_to_130;
DELIMITER //
CREATE TRIGGER g_ins AFTER INSERT ON gauge FOR EACH ROW INSERT INTO log1 VALUES (CONCAT('ins ', NEW.id))//
CREATE PROCEDURE add_g() BEGIN INSERT INTO gauge (id, station_id, w) VALUES (9000, 500, 1); INSERT INTO log1 VALUES ('p'); INSERT INTO sqt VALUES (default, 1); END//
CREATE FUNCTION gcount(s int) RETURNS int READS SQL DATA SQL SECURITY INVOKER RETURN (SELECT count(*) FROM gauge WHERE station_id = s)//
DELIMITER ;
CREATE ALGORITHM=MERGE SQL SECURITY INVOKER VIEW gv AS SELECT id, station_id, w FROM gauge WHERE w > 0 WITH CASCADED CHECK OPTION; CREATE VIEW gv2 AS SELECT g.id, s.code FROM gv g JOIN station s ON s.id = g.station_id;
SET @db = database(); EXECUTE IMMEDIATE CONCAT('GRANT SELECT, INSERT (id, station_id, w), UPDATE ON `', @db, '`.gauge TO tide_crew'); EXECUTE IMMEDIATE CONCAT('GRANT SELECT ON `', @db, '`.gv2 TO tide_hand@localhost'); EXECUTE IMMEDIATE CONCAT('GRANT EXECUTE ON `', @db, '`.* TO tide_hand@localhost');
