-- change foreign key gauge_station of gauge: on delete restrict
LOCK TABLES `gauge` WRITE, `station` WRITE;
ALTER TABLE `gauge` DROP FOREIGN KEY `gauge_station`;
ALTER TABLE `gauge` ADD CONSTRAINT `gauge_station` FOREIGN KEY (`station_id`) REFERENCES `station` (`id`);
UNLOCK TABLES;
