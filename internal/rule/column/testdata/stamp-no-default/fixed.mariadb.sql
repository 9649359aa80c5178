-- give station.created_at the default current_timestamp(3)
ALTER TABLE `station` MODIFY COLUMN `created_at` datetime(3) NOT NULL DEFAULT current_timestamp(3), ALGORITHM=INPLACE, LOCK=NONE;
