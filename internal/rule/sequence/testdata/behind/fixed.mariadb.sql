-- let numbers go on past the largest id of station
SET @nexdal = (SELECT CONCAT('DO SETVAL(`numbers`, ', MAX(`id`), ')') FROM `station`);
EXECUTE IMMEDIATE @nexdal;
