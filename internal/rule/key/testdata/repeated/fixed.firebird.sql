-- drop unique constraint (CODE, TITLE) of main.STATION
SET TRANSACTION READ WRITE ISOLATION LEVEL READ COMMITTED RECORD_VERSION WAIT LOCK TIMEOUT 5;
ALTER TABLE STATION DROP CONSTRAINT UQ_BOTH;
COMMIT;

-- drop unique constraint (ID, NOTE) of main.VISIT
SET TRANSACTION READ WRITE ISOLATION LEVEL READ COMMITTED RECORD_VERSION WAIT LOCK TIMEOUT 5;
EXECUTE BLOCK AS
DECLARE n VARCHAR(63);
BEGIN
  SELECT FIRST 1 TRIM(TRAILING FROM k.rdb$constraint_name) FROM rdb$relation_constraints k
    WHERE k.rdb$relation_name = 'VISIT' AND k.rdb$constraint_type = 'UNIQUE' AND k.rdb$constraint_name STARTING WITH 'INTEG_'
    AND (SELECT COUNT(*) FROM rdb$index_segments s WHERE s.rdb$index_name = k.rdb$index_name) = 2
    AND EXISTS (SELECT 1 FROM rdb$index_segments s WHERE s.rdb$index_name = k.rdb$index_name AND s.rdb$field_name = 'ID' AND s.rdb$field_position = 0)
    AND EXISTS (SELECT 1 FROM rdb$index_segments s WHERE s.rdb$index_name = k.rdb$index_name AND s.rdb$field_name = 'NOTE' AND s.rdb$field_position = 1) INTO :n;
  EXECUTE STATEMENT 'ALTER TABLE VISIT DROP CONSTRAINT ' || n;
END;
COMMIT;
