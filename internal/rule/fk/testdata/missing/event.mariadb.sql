-- probe
-- accept all
-- not mysql: the stand-in runs nothing by the clock
-- What runs by the clock removes rows before those that refer to them: the foreign key would let it fail, unseen.
CREATE TABLE station (id int PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE gauge (
  id int PRIMARY KEY,
  station_id int NOT NULL, -- want: fk/missing (no fix)
  KEY (station_id)
);
CREATE TABLE visit (
  id int PRIMARY KEY,
  station_id int NOT NULL, -- want: fk/missing
  KEY (station_id)
);
INSERT INTO station SELECT seq, CONCAT('Station ', seq) FROM seq_1_to_200;
INSERT INTO gauge SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
INSERT INTO visit SELECT seq, seq % 200 + 1 FROM seq_1_to_500;
DELIMITER $$
CREATE EVENT tidy ON SCHEDULE EVERY 1 DAY DO BEGIN DELETE FROM station WHERE id > 9000; DELETE FROM gauge WHERE station_id > 9000; END$$
DELIMITER ;
