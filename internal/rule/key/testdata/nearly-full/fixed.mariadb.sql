-- change the type of gauge.station_id to bigint(20); change the type of station.id to bigint(20)
LOCK TABLES `gauge` WRITE, `station` WRITE;
ALTER TABLE `gauge` DROP FOREIGN KEY `gauge_station`;
ALTER TABLE `gauge` MODIFY COLUMN `station_id` bigint(20) NOT NULL;
ALTER TABLE `station` MODIFY COLUMN `id` bigint(20) NOT NULL AUTO_INCREMENT;
ALTER TABLE `gauge` ADD CONSTRAINT `gauge_station` FOREIGN KEY (`station_id`) REFERENCES `station` (`id`);
UNLOCK TABLES;
