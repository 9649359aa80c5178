CREATE SEQUENCE leftover START WITH 5 INCREMENT BY 2; -- want-database: sequence/unused
COMMENT ON SEQUENCE leftover IS 'of old';
CREATE SEQUENCE taken;
CREATE SEQUENCE called;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY);
SET TERM ^ ;
CREATE TRIGGER station_bi FOR station BEFORE INSERT AS BEGIN NEW.id = NEXT VALUE FOR taken; END^
CREATE PROCEDURE numbers RETURNS (n bigint) AS BEGIN n = GEN_ID(called, 1); END^
SET TERM ; ^
