-- forbid null in reading.at
ALTER TABLE `reading` MODIFY COLUMN `at` date NOT NULL, ALGORITHM=INPLACE, LOCK=NONE;
