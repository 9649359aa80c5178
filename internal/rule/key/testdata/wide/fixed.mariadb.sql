-- add column sheet_id to mark
ALTER TABLE `mark` ADD COLUMN `sheet_id` bigint(20) NULL, ALGORITHM=INPLACE, LOCK=NONE;

-- make a number, id, the primary key of sheet, and (station_id, year, page, line) a unique constraint
ALTER TABLE `sheet` DROP PRIMARY KEY, ADD UNIQUE KEY `sheet_station_id_year_page_line_key` (`station_id`, `year`, `page`, `line`), ADD COLUMN `id` bigint(20) NOT NULL INVISIBLE AUTO_INCREMENT PRIMARY KEY, ALGORITHM=INPLACE, LOCK=SHARED;

-- fill mark.sheet_id with id of the row of sheet that (station_id, year, page, line) refers to
UPDATE `mark` AS c JOIN `sheet` AS p ON p.`station_id` = c.`station_id` AND p.`year` = c.`year` AND p.`page` = c.`page` AND p.`line` = c.`line`
  SET c.`sheet_id` = p.`id`
  WHERE c.`sheet_id` IS NULL;

-- create index mark_sheet_id_idx on mark
ALTER TABLE `mark` ADD INDEX `mark_sheet_id_idx` (`sheet_id`), ALGORITHM=INPLACE, LOCK=NONE;

-- add foreign key mark_sheet_id_fkey to mark
ALTER TABLE `mark` ADD CONSTRAINT `mark_sheet_id_fkey` FOREIGN KEY (`sheet_id`) REFERENCES `sheet` (`id`);
