-- set the default of station.created_at to current_timestamp(3)
ALTER TABLE `station` MODIFY COLUMN `created_at` datetime(3) NOT NULL DEFAULT current_timestamp(3), ALGORITHM=INPLACE, LOCK=NONE;
