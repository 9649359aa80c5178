-- add column id to note as its primary key
ALTER TABLE `note` ADD COLUMN `id` bigint(20) NOT NULL INVISIBLE AUTO_INCREMENT PRIMARY KEY, ALGORITHM=INPLACE, LOCK=SHARED;

-- add column id to odd `name as its primary key
ALTER TABLE `odd ``name` ADD COLUMN `id` bigint(20) NOT NULL INVISIBLE AUTO_INCREMENT PRIMARY KEY, ALGORITHM=INPLACE, LOCK=SHARED;

-- add column id to road as its primary key
ALTER TABLE `road` ADD COLUMN `id` bigint(20) NOT NULL INVISIBLE AUTO_INCREMENT PRIMARY KEY, ALGORITHM=INPLACE, LOCK=SHARED;

-- make the unique constraint (station_id, kind) of level its primary key
BEGIN NOT ATOMIC
  DECLARE EXIT HANDLER FOR 1845, 1846 ALTER TABLE `level` DROP INDEX `both; --`, ADD PRIMARY KEY (`station_id`, `kind`);
  ALTER TABLE `level` DROP INDEX `both; --`, ADD PRIMARY KEY (`station_id`, `kind`), ALGORITHM=INPLACE, LOCK=NONE;
END;

-- make the unique constraint (code) of station its primary key
ALTER TABLE `station` DROP INDEX `code`, ADD PRIMARY KEY (`code`);

-- drop sequence counter
DROP SEQUENCE `counter`;
