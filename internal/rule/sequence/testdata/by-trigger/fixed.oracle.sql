-- advance sequence KEEPERS past the largest ID of SALTMERE.KEEPER
DECLARE
  n NUMBER;
BEGIN
  SELECT GREATEST(NVL(MAX(ID), 0) + 1, (SELECT q.last_number FROM all_sequences q WHERE q.sequence_owner = 'SALTMERE' AND q.sequence_name = 'KEEPERS')) INTO n FROM SALTMERE.KEEPER;
  EXECUTE IMMEDIATE 'ALTER SEQUENCE SALTMERE.KEEPERS RESTART START WITH ' || n;
END;;

-- number ID of SALTMERE.KEEPER from sequence KEEPERS by its default, without trigger KEEPER_NO (1 of 2)
ALTER TABLE SALTMERE.KEEPER MODIFY (ID DEFAULT ON NULL "SALTMERE"."KEEPERS"."NEXTVAL");

-- number ID of SALTMERE.KEEPER from sequence KEEPERS by its default, without trigger KEEPER_NO (2 of 2)
DROP TRIGGER SALTMERE.KEEPER_NO;

-- advance sequence NUMBERS past the largest ID of SALTMERE.STATION
DECLARE
  n NUMBER;
BEGIN
  SELECT GREATEST(NVL(MAX(ID), 0) + 1, (SELECT q.last_number FROM all_sequences q WHERE q.sequence_owner = 'SALTMERE' AND q.sequence_name = 'NUMBERS')) INTO n FROM SALTMERE.STATION;
  EXECUTE IMMEDIATE 'ALTER SEQUENCE SALTMERE.NUMBERS RESTART START WITH ' || n;
END;;

-- number ID of SALTMERE.STATION from sequence NUMBERS by its default, without trigger STATION_NO (1 of 2)
ALTER TABLE SALTMERE.STATION MODIFY (ID DEFAULT ON NULL "SALTMERE"."NUMBERS"."NEXTVAL");

-- number ID of SALTMERE.STATION from sequence NUMBERS by its default, without trigger STATION_NO (2 of 2)
DROP TRIGGER SALTMERE.STATION_NO;
