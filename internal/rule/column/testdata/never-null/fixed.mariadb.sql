-- forbid null in keeper.level_no
ALTER TABLE `keeper` MODIFY COLUMN `level_no` int(11) NOT NULL, ALGORITHM=INPLACE, LOCK=NONE;
