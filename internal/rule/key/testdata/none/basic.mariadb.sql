CREATE TABLE station (code varchar(8) NOT NULL UNIQUE) ENGINE = MyISAM;  -- want: key/none "would serve"
CREATE TABLE note (a int, b text);                                     -- want: key/none "two rows can be alike"
CREATE TABLE reading (id int NOT NULL, at date NOT NULL) PARTITION BY RANGE COLUMNS (at) (PARTITION p VALUES LESS THAN (MAXVALUE));  -- want: key/none
CREATE TABLE fine (id int PRIMARY KEY);
CREATE SEQUENCE counter;
CREATE VIEW list AS SELECT * FROM note;
