-- not mysql: it has no sequences
-- probe
CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(numbers), name varchar(9)); -- want: sequence/behind
INSERT INTO station VALUES (1, 'a'), (2, 'b'), (3, 'c');
CREATE TABLE keeper (id bigint NOT NULL AUTO_INCREMENT PRIMARY KEY, name varchar(9));
INSERT INTO keeper VALUES (7, 'a');
