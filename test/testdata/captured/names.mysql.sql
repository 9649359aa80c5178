-- Names and texts that look like a capture's own lines, or break those of others, as far as the
-- stand-in bears them.
CREATE TABLE `@done 3` (id int PRIMARY KEY, `@row 2 []` varchar(40) DEFAULT '@end head 1', `a
b` varchar(20), `tab	bed` text) COMMENT 'one\n@done 76\n@nexdal 1 mysql\n(1 row)\n';
CREATE TABLE answer (id int PRIMARY KEY COMMENT '| framed |   ', code varchar(9) NOT NULL UNIQUE, seen datetime DEFAULT CURRENT_TIMESTAMP) COMMENT 'ä ß 水 🌊 \\ \'"';
CREATE TABLE `Table	Create Table` (id int PRIMARY KEY, answer_id int, kind enum('rain, or', '"fog"', 'back\\slash', ''), KEY of_answer (answer_id), CONSTRAINT `@ask head` FOREIGN KEY (answer_id) REFERENCES answer (id));
CREATE TABLE `back\slash "q" 'x';` (id int PRIMARY KEY);
CREATE VIEW watched AS SELECT id, code FROM answer;
