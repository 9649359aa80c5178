-- Names and texts that look like a capture's own lines, or break those of others.
CREATE TABLE `@done 3` (id int PRIMARY KEY, `@row 2 []` varchar(40) DEFAULT '@end head 1', `a
b` varchar(20) CHECK (`a
b` <> 'x\t\\n"'), `tab	bed` text) COMMENT 'one\n@done 76\n@nexdal 1 mariadb\n(1 row)\n';
CREATE TABLE answer (id int PRIMARY KEY COMMENT '| framed |   ', code varchar(9) NOT NULL UNIQUE, seen datetime DEFAULT current_timestamp()) COMMENT 'ä ß 水 🌊 \\ \'"';
CREATE TABLE `Table	Create Table` (id int PRIMARY KEY, answer_id int, kind enum('rain, or', '"fog"', 'back\\slash', ''), FOREIGN KEY (answer_id) REFERENCES answer (id));
CREATE TABLE `back\slash "q" 'x'` (id int PRIMARY KEY);
CREATE VIEW watched AS SELECT id, concat(code, '\n@failed head 42501') AS code FROM answer;
CREATE SEQUENCE `@ask
head` START WITH 5 CYCLE;
DELIMITER $$
CREATE FUNCTION `f
@ask head` () RETURNS varchar(40) RETURN '@end head 7
@done 1'$$
CREATE PROCEDURE answer () COMMENT 'x\ny' BEGIN SELECT '@row 2 []'; /* tab	bed \n */ END$$
CREATE TRIGGER `t
answer` BEFORE INSERT ON answer FOR EACH ROW SET NEW.code = 'a\tb\\'$$
DELIMITER ;
