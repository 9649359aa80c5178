-- forbid null in reading.grade
ALTER TABLE `reading` MODIFY COLUMN `grade` int(11) NOT NULL, ALGORITHM=INPLACE, LOCK=NONE;

-- drop index reading_grade of reading
ALTER TABLE `reading` DROP INDEX `reading_grade`, ALGORITHM=INPLACE, LOCK=NONE;
