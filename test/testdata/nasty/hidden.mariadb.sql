-- Invisible columns, rows kept by period and by version, SQL in strings, procedures that copy whole rows, cursors,
-- descending keys, defaults drawn from sequences, references with composite keys that set to null, checks beside
-- references, names of 64 letters and with accents graves, packages in another mode, two counters in one key,
-- views with and without a check, generated columns over referring ones, triggers that refuse.
-- as : INSERT INTO pier VALUES ('new', 4, DEFAULT); INSERT INTO berth (pier_no, slot, len) VALUES (3, 901, 7); UPDATE berth SET len = 9 WHERE slot = 5; DELETE FROM pier WHERE name = 'new'
-- as : CALL copy_berth(4); CALL by_string('berth', 6); INSERT INTO wide_berths (pier_no, slot, len) VALUES (3, 902, 70)
-- as : SELECT count(*) FROM berth FOR SYSTEM_TIME ALL; INSERT INTO lease (berth_slot, `from`, till) VALUES (5, '2031-01-01', '2031-02-01'); SELECT tally(3)
-- as night_watch: SELECT max(len) FROM wide_berths; UPDATE berth SET note = 'seen' WHERE slot = 4; CALL copy_berth(6)
SET NAMES utf8mb4; SET sql_mode = 'NO_ENGINE_SUBSTITUTION';
SET @db = database(); SET system_versioning_alter_history = 1;
CREATE USER IF NOT EXISTS night_watch@localhost;
CREATE SEQUENCE entry_no START WITH 100 INCREMENT BY 10 CACHE 5;
CREATE TABLE pier (
  name varchar(40) NOT NULL COLLATE utf8mb4_bin,
  depth decimal(5,2) DEFAULT 3.5,
  pier_no int AUTO_INCREMENT,
  secret int INVISIBLE DEFAULT 7,
  UNIQUE KEY (pier_no),
  UNIQUE KEY name_down (name DESC),
  KEY by_name (name DESC, depth)
) COMMENT='with a ''quote'' and a \\ backslash';
INSERT INTO pier (name) SELECT CONCAT('p', seq) FROM seq_1_to_150;
CREATE TABLE buoy (code char(9) NOT NULL, colour char(5) DEFAULT 'red', UNIQUE KEY code_down (code DESC) COMMENT 'last first');
INSERT INTO buoy (code) SELECT CONCAT('B', seq) FROM seq_1_to_101;
CREATE TABLE keel (grp int NOT NULL, no int NOT NULL, label inet6, PRIMARY KEY (grp, no DESC)) DEFAULT CHARSET=latin1;
INSERT INTO keel SELECT seq % 5, seq, '::1' FROM seq_1_to_120;
CREATE TABLE berth (
  pier_no int,
  slot int NOT NULL,
  len smallint unsigned DEFAULT 5,
  keel_grp int,
  keel_no int,
  twice int GENERATED ALWAYS AS (len * 2) STORED,
  label varchar(30) GENERATED ALWAYS AS (CONCAT(slot, '/', COALESCE(pier_no, 0))) VIRTUAL,
  note varchar(60),
  `nota bene` text INVISIBLE,
  CONSTRAINT on_pier FOREIGN KEY (pier_no) REFERENCES pier (pier_no) ON DELETE CASCADE ON UPDATE CASCADE,
  CONSTRAINT has_keel FOREIGN KEY (keel_grp, keel_no) REFERENCES keel (grp, no) ON DELETE SET NULL,
  CONSTRAINT slot_positive CHECK (slot > 0 AND note <> 'slot_positive')
) WITH SYSTEM VERSIONING;
INSERT INTO berth (pier_no, slot, len, keel_grp, keel_no) SELECT 1 + seq % 150, seq, 1 + seq % 90, seq % 5, seq FROM seq_1_to_120;
UPDATE berth SET len = len + 1 WHERE slot < 9;
CREATE UNIQUE INDEX slot_u ON berth (slot);
CREATE INDEX slot_len ON berth (slot, len);
CREATE INDEX pier_len ON berth (pier_no, len DESC);
CREATE TABLE lease (
  berth_slot int NOT NULL, `from` date NOT NULL, till date NOT NULL, price double DEFAULT (rand() * 10), spare int,
  PERIOD FOR paid (`from`, till),
  UNIQUE KEY no_two (berth_slot, paid WITHOUT OVERLAPS)
);
INSERT INTO lease (berth_slot, `from`, till) SELECT seq, '2025-01-01', '2026-01-01' FROM seq_1_to_110;
CREATE TABLE logbook (
  entry_no bigint NOT NULL DEFAULT nextval(entry_no), entry varchar(200), pier_name varchar(40) COLLATE utf8mb4_bin,
  happened timestamp NOT NULL DEFAULT current_timestamp() ON UPDATE current_timestamp(), kind enum('in','out','it''s') DEFAULT 'in', flags set('a','b') DEFAULT 'a,b',
  KEY (entry(20)), KEY entry_again (entry(20), kind), KEY `select` (happened)
) ROW_FORMAT=DYNAMIC;
INSERT INTO logbook (entry, pier_name) SELECT CONCAT('e', seq), CONCAT('p', 1 + seq % 150) FROM seq_1_to_300;
CREATE TABLE logbook_old LIKE logbook;
INSERT INTO logbook_old SELECT * FROM logbook;
CREATE TABLE pair (grp int NOT NULL, id int NOT NULL AUTO_INCREMENT, note char(5) DEFAULT '', PRIMARY KEY (grp, id)) ENGINE=MyISAM;
INSERT INTO pair (grp) SELECT seq % 3 FROM seq_1_to_105;
CREATE TABLE `tick ``mark` (`a.b` int NOT NULL, `select from` varchar(10) NOT NULL DEFAULT '`', `an_identifier_of_sixty_four_letters_which_is_all_that_there_can_` int, PRIMARY KEY (`a.b`), KEY `an_index_of_sixty_four_letters_which_is_all_that_there_can_be_ab` (`select from`), KEY `x``y` (`select from`, `a.b`));
INSERT INTO `tick ``mark` SELECT seq, CONCAT('p', 1 + seq % 150), seq FROM seq_1_to_140;
CREATE VIEW wide_berths AS SELECT pier_no, slot, len FROM berth WHERE len > 40 WITH LOCAL CHECK OPTION;
CREATE ALGORITHM=TEMPTABLE SQL SECURITY INVOKER VIEW per_pier AS SELECT p.*, (SELECT count(*) FROM berth b WHERE b.pier_no = p.pier_no) AS n FROM pier p;
CREATE VIEW marks AS SELECT * FROM `tick ``mark` t JOIN per_pier x ON x.name = t.`select from`;
DELIMITER //
CREATE TRIGGER berth_guard BEFORE UPDATE ON berth FOR EACH ROW IF NEW.slot <> OLD.slot THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'a berth keeps its slot'; END IF//
CREATE TRIGGER berth_first BEFORE UPDATE ON berth FOR EACH ROW PRECEDES berth_guard SET NEW.note = COALESCE(NEW.note, 'was empty')//
CREATE TRIGGER berth_seen AFTER UPDATE ON berth FOR EACH ROW INSERT INTO logbook (entry_no, entry, kind) VALUES (900000 + NEW.slot, CONCAT('berth ', NEW.slot), 'it''s')//
CREATE TRIGGER pier_gone BEFORE DELETE ON pier FOR EACH ROW DELETE FROM logbook WHERE pier_name = OLD.name AND entry_no < 0//
CREATE PROCEDURE copy_berth(n int) MODIFIES SQL DATA
BEGIN
  DECLARE done int DEFAULT 0;
  DECLARE e varchar(200); DECLARE k varchar(9);
  DECLARE c CURSOR FOR SELECT entry, kind FROM logbook WHERE entry_no < 400;
  DECLARE CONTINUE HANDLER FOR NOT FOUND SET done = 1;
  INSERT INTO logbook SELECT * FROM logbook_old WHERE entry_no = -1;
  OPEN c; FETCH c INTO e, k; CLOSE c;
  INSERT INTO logbook_old VALUES (n, e, NULL, now(), 'out', '');
END//
CREATE PROCEDURE by_string(t varchar(64), n int)
BEGIN
  SET @q = CONCAT('UPDATE `', t, '` SET note = ''by string'' WHERE slot = ', n);
  PREPARE s FROM @q; EXECUTE s; DEALLOCATE PREPARE s;
  EXECUTE IMMEDIATE 'INSERT INTO logbook_old VALUES (1, ''x'', NULL, now(), ''in'', ''a'')';
END//
CREATE FUNCTION tally(p int) RETURNS int READS SQL DATA BEGIN DECLARE r ROW TYPE OF berth; RETURN (SELECT count(*) FROM berth WHERE pier_no = p); END//
DELIMITER ;
EXECUTE IMMEDIATE CONCAT('GRANT SELECT ON `', @db, '`.wide_berths TO night_watch@localhost WITH GRANT OPTION');
EXECUTE IMMEDIATE CONCAT('GRANT SELECT (slot), UPDATE (note, `nota bene`) ON `', @db, '`.berth TO night_watch@localhost');
EXECUTE IMMEDIATE CONCAT('GRANT EXECUTE ON PROCEDURE `', @db, '`.copy_berth TO night_watch@localhost');
ANALYZE TABLE pier, berth, logbook;
