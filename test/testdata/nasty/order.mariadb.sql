-- Programs that write tables in an order which a foreign key would refuse: the parts before the whole, the whole before its
-- parts, and triggers that bring or take along what nobody declared. Their references must stay as they are; others need not.
-- as : CALL leaves(3)
-- as : CALL arrives(901)
-- as : CALL bring_in(1000); CALL take_out(1000); CALL renumber(5, 2005); CALL renumber(2005, 5)
-- as : INSERT INTO rope (id, reel_id) VALUES (900, 901); DELETE FROM rope WHERE id = 900; DELETE FROM reel WHERE id = 901
-- as : INSERT INTO shed VALUES (901, 'Shed 901'); INSERT INTO tool VALUES (901, 901); DELETE FROM shed WHERE id = 901
-- as : UPDATE dock SET id = 3007 WHERE id = 7; UPDATE dock SET id = 7 WHERE id = 3007
-- as : INSERT INTO pier VALUES (901, 'Pier 901'); INSERT INTO plank VALUES (901, 901); DELETE FROM pier WHERE id = 901
CREATE TABLE station (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE gauge (id int PRIMARY KEY, station_id int NOT NULL, KEY (station_id));
CREATE TABLE reel (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE rope (id int PRIMARY KEY, reel_id int NOT NULL, KEY (reel_id));
CREATE TABLE shed (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE tool (id int PRIMARY KEY, shed_id int NOT NULL, KEY (shed_id));
CREATE TABLE dock (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE boat (id int PRIMARY KEY, dock_id int NOT NULL, KEY (dock_id));
CREATE TABLE pier (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE plank (id int PRIMARY KEY, pier_id int NOT NULL, KEY (pier_id));
CREATE TABLE hull (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE mast (id int PRIMARY KEY, hull_id int NOT NULL, KEY (hull_id));
INSERT INTO station SELECT seq, CONCAT('Station ', seq) FROM seq_1_to_200; INSERT INTO gauge SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO reel SELECT seq, CONCAT('Reel ', seq) FROM seq_1_to_200; INSERT INTO rope SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO shed SELECT seq, CONCAT('Shed ', seq) FROM seq_1_to_200; INSERT INTO tool SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO dock SELECT seq, CONCAT('Dock ', seq) FROM seq_1_to_200; INSERT INTO boat SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO pier SELECT seq, CONCAT('Pier ', seq) FROM seq_1_to_200; INSERT INTO plank SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO hull SELECT seq, CONCAT('Hull ', seq) FROM seq_1_to_200; INSERT INTO mast SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
DELIMITER $$
CREATE PROCEDURE bring_in(n int) BEGIN INSERT INTO gauge VALUES (n, n); INSERT INTO station VALUES (n, 'New'); END$$
CREATE PROCEDURE take_out(n int) BEGIN DELETE FROM station WHERE id = n; DELETE FROM gauge WHERE station_id = n; END$$
CREATE PROCEDURE renumber(a int, b int) BEGIN UPDATE station SET id = b WHERE id = a; UPDATE gauge SET station_id = b WHERE station_id = a; END$$
CREATE TRIGGER brings AFTER INSERT ON rope FOR EACH ROW INSERT IGNORE INTO reel VALUES (NEW.reel_id, 'New')$$
CREATE TRIGGER clears AFTER DELETE ON shed FOR EACH ROW DELETE FROM tool WHERE shed_id = OLD.id$$
CREATE TRIGGER follows BEFORE UPDATE ON dock FOR EACH ROW UPDATE boat SET dock_id = NEW.id WHERE dock_id = OLD.id$$
CREATE TRIGGER planks BEFORE DELETE ON pier FOR EACH ROW DELETE FROM plank WHERE pier_id = OLD.id$$
DELIMITER ;
CREATE TABLE berth (pier int, no int, name varchar(20) NOT NULL, PRIMARY KEY (pier, no)); INSERT INTO berth SELECT seq, seq % 7, 'B' FROM seq_1_to_50;
CREATE TABLE ship (id int PRIMARY KEY, pier int, no int, name varchar(20) NOT NULL, CONSTRAINT ship_berth FOREIGN KEY (pier, no) REFERENCES berth (pier, no));
INSERT INTO ship SELECT seq, seq % 50 + 1, (seq % 50 + 1) % 7, 'x' FROM seq_1_to_100; INSERT INTO ship SELECT seq, NULL, NULL, 'y' FROM seq_201_to_220;
DELIMITER $$
CREATE PROCEDURE leaves(i int) BEGIN UPDATE ship SET no = NULL WHERE id = i; UPDATE ship SET pier = NULL WHERE id = i; END$$
CREATE PROCEDURE arrives(i int) BEGIN INSERT INTO ship (id, pier, name) VALUES (i, 3, 'z'); UPDATE ship SET no = 3 WHERE id = i; END$$
DELIMITER ;
