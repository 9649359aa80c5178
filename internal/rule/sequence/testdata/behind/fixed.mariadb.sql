-- advance sequence numbers past the largest id of station
SET @nexdal = (SELECT COALESCE(CONCAT('DO SETVAL(`numbers`, ', MAX(`id`), ')'), 'DO 0') FROM `station`);
EXECUTE IMMEDIATE @nexdal;
