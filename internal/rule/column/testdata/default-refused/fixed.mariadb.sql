-- drop the default of station.status; drop the default of station.grade
BEGIN NOT ATOMIC
  DECLARE EXIT HANDLER FOR 1845, 1846 ALTER TABLE `station` MODIFY COLUMN `status` varchar(5) NOT NULL CHECK (`status` in ('a','b')), MODIFY COLUMN `grade` int(11) NULL CHECK (`grade` > 0);
  ALTER TABLE `station` MODIFY COLUMN `status` varchar(5) NOT NULL CHECK (`status` in ('a','b')), MODIFY COLUMN `grade` int(11) NULL CHECK (`grade` > 0), ALGORITHM=INPLACE, LOCK=NONE;
END;
