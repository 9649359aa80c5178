-- add unique constraint (station_id) to sheet
ALTER TABLE `sheet` ADD UNIQUE KEY `sheet_station_id_key` (`station_id`), ALGORITHM=INPLACE, LOCK=NONE;

-- drop index sheet_by_station of sheet
ALTER TABLE `sheet` DROP INDEX `sheet_by_station`, ALGORITHM=INPLACE, LOCK=NONE;
