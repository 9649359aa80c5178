-- probe
CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY, name varchar(9)); -- want: sequence/behind
INSERT INTO station VALUES (1, 'a');
INSERT INTO station VALUES (3, 'c');
CREATE SEQUENCE ahead START WITH 7;
CREATE TABLE keeper (id bigint NOT NULL PRIMARY KEY, name varchar(9));
INSERT INTO keeper VALUES (7, 'a');
SET TERM ^ ;
CREATE TRIGGER station_bi FOR station BEFORE INSERT AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = GEN_ID(numbers, 1); END^
CREATE TRIGGER keeper_bi FOR keeper BEFORE INSERT AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = GEN_ID(ahead, 1); END^
SET TERM ; ^
