-- drop index reading_gauge of reading
BEGIN NOT ATOMIC
  DECLARE EXIT HANDLER FOR 1845, 1846 ALTER TABLE `reading` DROP INDEX `reading_gauge`;
  ALTER TABLE `reading` DROP INDEX `reading_gauge`, ALGORITHM=INPLACE, LOCK=NONE;
END;

-- drop index reading_label_5 of reading
BEGIN NOT ATOMIC
  DECLARE EXIT HANDLER FOR 1845, 1846 ALTER TABLE `reading` DROP INDEX `reading_label_5`;
  ALTER TABLE `reading` DROP INDEX `reading_label_5`, ALGORITHM=INPLACE, LOCK=NONE;
END;
