-- What programs are used to do with tables, and what a fix must leave them: to empty a table that others refer to without
-- saying so, to replace its rows, to move numbers along, to write a value that nobody has written yet.
-- as : CALL load_levels()
-- as : CALL swap()
-- as : CALL refill(); CALL stock_up(3); CALL make_room(3); CALL close_it(4); INSERT INTO visit (id, station_id, place_no) VALUES (900, 1, 900); DELETE FROM visit WHERE id = 900
-- goes: plank
CREATE TABLE station (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE station_was LIKE station;
CREATE TABLE gauge (id int PRIMARY KEY, station_id int NOT NULL, KEY (station_id));
CREATE TABLE part (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE stock (id int PRIMARY KEY, part_id int NOT NULL, KEY (part_id));
CREATE TABLE berth (id int PRIMARY KEY, berth_no int NOT NULL, name varchar(40));
CREATE TABLE visit (id int PRIMARY KEY, station_id int NOT NULL, status varchar(10) NOT NULL DEFAULT 'planned', kind char(1) NOT NULL DEFAULT 'x', place_no int NOT NULL, KEY (station_id));
CREATE TABLE pier (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE plank (id int PRIMARY KEY, pier_id int NOT NULL, KEY (pier_id));
INSERT INTO station SELECT seq, concat('Station ', seq) FROM seq_1_to_200;
INSERT INTO gauge SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO part SELECT seq, concat('Part ', seq) FROM seq_1_to_200;
INSERT INTO stock SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO berth SELECT seq, seq, concat('Berth ', seq) FROM seq_1_to_200;
INSERT INTO visit SELECT seq, seq % 200 + 1, if(seq % 2, 'open', 'done'), if(seq % 2, 'a', 'b'), seq FROM seq_1_to_500;
INSERT INTO pier SELECT seq, concat('Pier ', seq) FROM seq_1_to_200;
INSERT INTO plank SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
DELIMITER //
CREATE PROCEDURE refill() BEGIN TRUNCATE TABLE station_was; INSERT INTO station_was (id, name) SELECT id, name FROM station; TRUNCATE station; INSERT INTO station (id, name) SELECT id, name FROM station_was; TRUNCATE station_was; END//
CREATE PROCEDURE stock_up(n int) BEGIN REPLACE INTO part (id, name) VALUES (n, concat('Part ', n)); END//
CREATE PROCEDURE make_room(n int) BEGIN UPDATE berth SET berth_no = berth_no + 1 WHERE berth_no >= n; UPDATE berth SET berth_no = berth_no - 1 WHERE berth_no > n; END//
CREATE PROCEDURE close_it(n int) BEGIN UPDATE visit SET status = 'closed' WHERE id = n; UPDATE visit SET status = 'done' WHERE id = n; END//
DELIMITER ;
CREATE TABLE level (id int PRIMARY KEY, place int NOT NULL, height int NOT NULL, KEY level_high (height), KEY level_high_again (height), CONSTRAINT level_low CHECK (height > -100), CONSTRAINT level_low_again CHECK (height > -100));
INSERT INTO level SELECT seq, seq, seq FROM seq_1_to_50;
CREATE TABLE crane (id int PRIMARY KEY, name varchar(40) NOT NULL); CREATE TABLE hook (id int PRIMARY KEY, crane_id int NOT NULL, KEY (crane_id));
INSERT INTO crane SELECT seq, CONCAT('Crane ', seq) FROM seq_1_to_200; INSERT INTO hook SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
DELIMITER $$
CREATE PROCEDURE load_levels() BEGIN ALTER TABLE level DROP INDEX level_high_again; ALTER TABLE level DROP CONSTRAINT level_low_again; ALTER TABLE level ADD KEY level_high_again (height), ADD CONSTRAINT level_low_again CHECK (height > -100); END$$
CREATE PROCEDURE swap() BEGIN DROP TABLE crane; CREATE TABLE crane (id int PRIMARY KEY, name varchar(40) NOT NULL); INSERT INTO crane SELECT seq, CONCAT('Crane ', seq) FROM seq_1_to_200; END$$
DELIMITER ;
