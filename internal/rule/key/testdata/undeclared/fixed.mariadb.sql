-- forbid null in keeper.level_no; forbid null in keeper.pieces
ALTER TABLE `keeper` MODIFY COLUMN `level_no` int(11) NOT NULL, MODIFY COLUMN `pieces` int(11) NOT NULL, ALGORITHM=INPLACE, LOCK=NONE;

-- add unique constraint (badge_number) to keeper
ALTER TABLE `keeper` ADD UNIQUE KEY `keeper_badge_number_key` (`badge_number`), ALGORITHM=INPLACE, LOCK=NONE;
