CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY /* from numbers */); -- want: sequence/shared "numbers station and visit together" (no fix)
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY);
SET TERM ^ ;
CREATE TRIGGER station_bi FOR station BEFORE INSERT AS BEGIN SELECT GEN_ID(numbers, 1) FROM rdb$database INTO NEW.id; END^
CREATE TRIGGER visit_bi FOR visit BEFORE INSERT AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = NEXT VALUE FOR numbers; END^
SET TERM ; ^
