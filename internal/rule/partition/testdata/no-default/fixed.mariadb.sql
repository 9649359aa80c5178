-- add partition rest to reading
ALTER TABLE `reading` ADD PARTITION (PARTITION `rest` DEFAULT);
