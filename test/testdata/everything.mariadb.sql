-- Saltmere as nasty as real life: one of everything that the reader knows.
CREATE SEQUENCE ticket START WITH 7 INCREMENT BY -3 MINVALUE -100 MAXVALUE 100 CACHE 5 CYCLE COMMENT='goes down';
CREATE SEQUENCE by_hand NOCACHE;

CREATE TABLE `coast section` (
  id int unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY COMMENT 'numbered; by itself',
  `Name, with ``quotes``` varchar(40) NOT NULL UNIQUE,
  kind enum('cliff','it''s "sand"','mud\\flat') DEFAULT 'cliff',
  marks set('a','b') NULL,
  latin varchar(20) CHARACTER SET latin1 COLLATE latin1_german1_ci DEFAULT 'é',
  ascii_code char(3) CHARACTER SET ascii COLLATE ascii_bin,
  hidden int INVISIBLE DEFAULT 5,
  changed timestamp(3) NULL DEFAULT current_timestamp(3) ON UPDATE current_timestamp(3),
  seen timestamp NOT NULL DEFAULT '2026-01-01 00:00:00',
  ticket bigint DEFAULT nextval(ticket),
  flags bit(3) DEFAULT b'101',
  token uuid DEFAULT uuid(),
  hexed varbinary(8) DEFAULT x'004127',
  packed blob COMPRESSED,
  doc json DEFAULT '{"a": 1}',
  place point,
  zero int(5) unsigned zerofill,
  price decimal(12,4) DEFAULT 0.5000,
  rate double(8,2),
  y year
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci ROW_FORMAT=COMPRESSED KEY_BLOCK_SIZE=8 COMMENT='two\nlines; it''s';

CREATE TABLE station (
  id bigint NOT NULL AUTO_INCREMENT,
  code varchar(12) NOT NULL,
  section_id int unsigned NOT NULL,
  replaced_by bigint NULL,
  shouted varchar(30) GENERATED ALWAYS AS (upper(code)) STORED,
  half double AS (id / 2) VIRTUAL COMMENT 'when read',
  remark text,
  opened date CHECK (opened > '1900-01-01'),
  chief bigint,
  PRIMARY KEY (id),
  UNIQUE KEY code_once (code DESC) COMMENT 'one each',
  KEY by_section (section_id, opened),
  KEY remark_start (remark(20), code(5)),
  KEY not_used (opened) IGNORED,
  FULLTEXT KEY words (remark),
  CONSTRAINT `open; long ago` CHECK (opened > '1950-01-01' OR code <> 'O\'LD'),
  CONSTRAINT successor FOREIGN KEY (replaced_by) REFERENCES station (id) ON DELETE SET NULL,
  CONSTRAINT in_section FOREIGN KEY (section_id) REFERENCES `coast section` (id) ON UPDATE CASCADE
) DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;

CREATE TABLE keeper (id bigint PRIMARY KEY, station_id bigint NOT NULL, FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE) DEFAULT CHARSET=utf8mb4;
ALTER TABLE station ADD CONSTRAINT station_chief FOREIGN KEY (chief) REFERENCES keeper (id);

CREATE TABLE reading (station_id bigint NOT NULL, at datetime NOT NULL, level float, PRIMARY KEY (station_id, at)) DEFAULT CHARSET=utf8mb4
  PARTITION BY RANGE (year(at)) SUBPARTITION BY HASH (station_id) (
    PARTITION p2026 VALUES LESS THAN (2027) (SUBPARTITION p2026a COMMENT = 'even', SUBPARTITION p2026b),
    PARTITION rest VALUES LESS THAN MAXVALUE (SUBPARTITION resta, SUBPARTITION restb));
CREATE TABLE reading_flag (code varchar(5) NOT NULL, at date NOT NULL) DEFAULT CHARSET=utf8mb4
  PARTITION BY RANGE COLUMNS (at, code) (PARTITION a VALUES LESS THAN ('2026-01-01', 'M') COMMENT = 'old', PARTITION z VALUES LESS THAN (MAXVALUE, MAXVALUE));
CREATE TABLE visit (id int NOT NULL, kind int NOT NULL) DEFAULT CHARSET=utf8mb4 PARTITION BY LIST (kind) (PARTITION l1 VALUES IN (1, 3), PARTITION l2 VALUES IN (2), PARTITION other DEFAULT);
CREATE TABLE visit_task (id int NOT NULL PRIMARY KEY) DEFAULT CHARSET=utf8mb4 PARTITION BY LINEAR KEY (id) PARTITIONS 3;
CREATE TABLE tide_table (id int PRIMARY KEY, level double) ENGINE=MyISAM DEFAULT CHARSET=latin1 CHECKSUM=1;
CREATE TABLE part_stock (part varchar(50) PRIMARY KEY, on_shelf int, place point NOT NULL, SPATIAL KEY where_it_is (place)) ENGINE=Aria DEFAULT CHARSET=utf8mb4 PAGE_CHECKSUM=1 TRANSACTIONAL=1;
CREATE TABLE kept (id int PRIMARY KEY, note text WITHOUT SYSTEM VERSIONING) DEFAULT CHARSET=utf8mb4 WITH SYSTEM VERSIONING;
CREATE TABLE kept_long (id int PRIMARY KEY, a timestamp(6) GENERATED ALWAYS AS ROW START, z timestamp(6) GENERATED ALWAYS AS ROW END, PERIOD FOR SYSTEM_TIME (a, z)) DEFAULT CHARSET=utf8mb4 WITH SYSTEM VERSIONING;
CREATE TABLE `sixty-four letters of a name which is as long as a name may be x` (`a;b` int, `line
feed` int, `é ☃` int, `select` int) DEFAULT CHARSET=utf8mb4;
CREATE TABLE numbered_by_trigger (id bigint PRIMARY KEY, v int) DEFAULT CHARSET=utf8mb4;
CREATE TABLE long_unique (a text, UNIQUE KEY by_hash (a)) DEFAULT CHARSET=utf8mb4;

CREATE VIEW open_station AS SELECT s.id, s.code, c.`Name, with ``quotes``` AS section FROM station s JOIN `coast section` c ON c.id = s.section_id WHERE s.replaced_by IS NULL;
CREATE ALGORITHM=TEMPTABLE SQL SECURITY INVOKER VIEW `by section` (section, `how many`) AS SELECT section, count(*) FROM open_station GROUP BY section;
CREATE VIEW simple_part AS SELECT part, on_shelf FROM part_stock WHERE on_shelf > 0 WITH LOCAL CHECK OPTION;

DELIMITER $$
CREATE FUNCTION level_of(s bigint, `when` datetime) RETURNS varchar(20) CHARSET utf8mb4 COLLATE utf8mb4_bin DETERMINISTIC READS SQL DATA SQL SECURITY INVOKER COMMENT 'it''s a level'
BEGIN
  DECLARE l float; -- a semicolon; here
  SELECT level INTO l FROM reading WHERE station_id = s AND at = `when`;
  RETURN concat(l, ' m; it''s "so"');
END$$
CREATE PROCEDURE tidy(IN older int, INOUT gone int, OUT x varchar(5) CHARSET utf8mb4 COLLATE utf8mb4_general_ci)
BEGIN
  IF older > 1 THEN DELETE FROM reading WHERE at < now() - INTERVAL older DAY; END IF;
  SET gone = row_count();
END$$
CREATE TRIGGER number_it BEFORE INSERT ON numbered_by_trigger FOR EACH ROW BEGIN SET NEW.id = NEXT VALUE FOR by_hand; END$$
CREATE TRIGGER a_second BEFORE INSERT ON numbered_by_trigger FOR EACH ROW FOLLOWS number_it SET NEW.v = coalesce(NEW.v, 1)$$
CREATE TRIGGER station_gone AFTER DELETE ON station FOR EACH ROW INSERT INTO reading_flag VALUES ('gone', now())$$
SET sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'$$
CREATE FUNCTION quoted_name() RETURNS varchar(40) RETURN 'a' || 'b'$$
SET sql_mode = DEFAULT$$
CREATE EVENT nightly ON SCHEDULE EVERY 1 DAY STARTS '2026-01-01 03:00:00' ENDS '2030-01-01 00:00:00' ON COMPLETION PRESERVE DISABLE COMMENT 'at three' DO CALL tidy(365, @n, @x)$$
CREATE EVENT odd ON SCHEDULE EVERY '1:30' HOUR_MINUTE STARTS '2026-01-01 00:00:00' DISABLE DO BEGIN SET @a = 1; SET @b = 2; END$$
DELIMITER ;
-- A counter of 64 bits without a sign, and what refers to it at first and second hand.
CREATE TABLE tide_mark (mark_no bigint unsigned AUTO_INCREMENT PRIMARY KEY, up bigint unsigned, FOREIGN KEY (up) REFERENCES tide_mark (mark_no));
CREATE TABLE tide_mark_photo (mark_no bigint unsigned UNIQUE, FOREIGN KEY (mark_no) REFERENCES tide_mark (mark_no));
CREATE TABLE tide_mark_print (print_no int unsigned, mark_no bigint unsigned, weight bigint unsigned, FOREIGN KEY (mark_no) REFERENCES tide_mark_photo (mark_no));
