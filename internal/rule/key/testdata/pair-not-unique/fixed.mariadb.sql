-- add unique constraint (station_id, keeper_id) to membership
ALTER TABLE `membership` ADD UNIQUE KEY `membership_station_id_keeper_id_key` (`station_id`, `keeper_id`), ALGORITHM=INPLACE, LOCK=NONE;

-- add unique constraint (station_id, keeper_id) to station_keeper
ALTER TABLE `station_keeper` ADD UNIQUE KEY `station_keeper_station_id_keeper_id_key` (`station_id`, `keeper_id`), DROP INDEX `station_id`, ALGORITHM=INPLACE, LOCK=NONE;

-- drop index by_station of membership
ALTER TABLE `membership` DROP INDEX `by_station`, ALGORITHM=INPLACE, LOCK=NONE;
