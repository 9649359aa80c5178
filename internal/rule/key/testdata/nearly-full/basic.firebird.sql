-- A trigger numbers it, and a reference follows; an unnamed key and foreign key are made again.
CREATE SEQUENCE numbers;
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(9) NOT NULL UNIQUE); -- want: key/nearly-full
ALTER SEQUENCE numbers RESTART WITH 2000000000;
SET TERM ^ ;
CREATE TRIGGER station_bi FOR station BEFORE INSERT AS BEGIN IF (NEW.id IS NULL) THEN NEW.id = GEN_ID(numbers, 1); END^
SET TERM ; ^
CREATE TABLE gauge (id bigint NOT NULL PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id) ON DELETE CASCADE, CONSTRAINT gauge_real CHECK (station_id > 0));
INSERT INTO station (code) VALUES ('a');
INSERT INTO gauge SELECT 1, id FROM station;
