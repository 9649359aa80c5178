-- change the type of main.GAUGE.STATION_CODE to VARCHAR(12)
SET TRANSACTION READ WRITE ISOLATION LEVEL READ COMMITTED RECORD_VERSION WAIT LOCK TIMEOUT 5;
EXECUTE BLOCK AS
DECLARE n VARCHAR(63);
BEGIN
  SELECT FIRST 1 TRIM(TRAILING FROM k.rdb$constraint_name) FROM rdb$relation_constraints k JOIN rdb$ref_constraints f ON f.rdb$constraint_name = k.rdb$constraint_name JOIN rdb$relation_constraints p ON p.rdb$constraint_name = f.rdb$const_name_uq
    WHERE k.rdb$relation_name = 'GAUGE' AND k.rdb$constraint_type = 'FOREIGN KEY' AND k.rdb$constraint_name STARTING WITH 'INTEG_' AND p.rdb$relation_name = 'STATION'
    AND (SELECT COUNT(*) FROM rdb$index_segments s WHERE s.rdb$index_name = k.rdb$index_name) = 1
    AND EXISTS (SELECT 1 FROM rdb$index_segments s WHERE s.rdb$index_name = k.rdb$index_name AND s.rdb$field_name = 'STATION_CODE' AND s.rdb$field_position = 0) INTO :n;
  EXECUTE STATEMENT 'ALTER TABLE GAUGE DROP CONSTRAINT ' || n;
END;
ALTER TABLE GAUGE ALTER COLUMN STATION_CODE TYPE VARCHAR(12);
ALTER TABLE GAUGE ADD FOREIGN KEY (STATION_CODE) REFERENCES STATION (CODE);
COMMIT;
