-- not mysql: it has no sequences
CREATE TABLE station (code varchar(8) NOT NULL UNIQUE) ENGINE = MyISAM;  -- want: key/none "would serve", storage/no-transactions (no fix)
CREATE TABLE note (a int, b text);                                     -- want: key/none "two rows can be alike"
CREATE TABLE reading (id int NOT NULL, at date NOT NULL) PARTITION BY RANGE COLUMNS (at) (PARTITION p VALUES LESS THAN (MAXVALUE));  -- want: key/none (no fix)
CREATE TABLE fine (id int PRIMARY KEY);
CREATE SEQUENCE counter;
CREATE VIEW list AS SELECT * FROM note;
CREATE TABLE level (station_id int NOT NULL, kind int NOT NULL, height int, UNIQUE KEY `both; --` (station_id, kind)) ENGINE = InnoDB;  -- want: key/none
CREATE TABLE road (code varchar(8) NOT NULL UNIQUE) ENGINE = InnoDB;   -- want: key/none
CREATE TABLE stop (id int PRIMARY KEY, road_code varchar(8), FOREIGN KEY (road_code) REFERENCES road (code));
CREATE TABLE `odd ``name` (`order` int, `x y` text);                    -- want: key/none
INSERT INTO note VALUES (1, 'x'), (1, 'x');
INSERT INTO level VALUES (1, 1, 5), (1, 2, NULL);
INSERT INTO road VALUES ('A'); INSERT INTO stop VALUES (1, 'A');
