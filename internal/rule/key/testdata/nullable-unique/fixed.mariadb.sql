-- forbid null in sheet.day
ALTER TABLE `sheet` MODIFY COLUMN `day` int(11) NOT NULL, ALGORITHM=INPLACE, LOCK=NONE;
