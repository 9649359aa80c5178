-- drop unique constraint (code, name) of station
ALTER TABLE `station` DROP INDEX `station_code_name`, ALGORITHM=INPLACE, LOCK=NONE;
