-- add unique constraint (station_id) to sheet
ALTER TABLE `sheet` ADD UNIQUE KEY `sheet_station_id_key` (`station_id`), ALGORITHM=INPLACE, LOCK=NONE;

-- add foreign key mooring_buoy_id_fkey to mooring
ALTER TABLE `mooring` ADD CONSTRAINT `mooring_buoy_id_fkey` FOREIGN KEY (`buoy_id`) REFERENCES `buoy` (`id`);

-- drop index sheet_by_station of sheet
ALTER TABLE `sheet` DROP INDEX `sheet_by_station`, ALGORITHM=INPLACE, LOCK=NONE;
