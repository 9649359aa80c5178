-- drop index reading_gauge of reading
ALTER TABLE `reading` DROP INDEX `reading_gauge`, ALGORITHM=INPLACE, LOCK=NONE;
