-- change the type of station.depth to decimal(7,2)
ALTER TABLE `station` MODIFY COLUMN `depth` decimal(7,2) NULL;
