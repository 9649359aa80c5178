-- add unique constraint (code) to station
ALTER TABLE `station` ADD UNIQUE KEY `station_code_key` (`code`), ALGORITHM=INPLACE, LOCK=NONE;
