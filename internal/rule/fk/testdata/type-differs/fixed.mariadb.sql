-- change the type of gauge.code to varchar(8); change the type of gauge.name to varchar(40)
LOCK TABLES `gauge` WRITE, `station` WRITE;
ALTER TABLE `gauge` DROP FOREIGN KEY `gauge_ibfk_2`;
ALTER TABLE `gauge` DROP FOREIGN KEY `gauge_ibfk_3`;
ALTER TABLE `gauge` MODIFY COLUMN `code` varchar(8) NULL, MODIFY COLUMN `name` varchar(40) NULL;
ALTER TABLE `gauge` ADD CONSTRAINT `gauge_ibfk_2` FOREIGN KEY (`code`) REFERENCES `station` (`code`);
ALTER TABLE `gauge` RENAME INDEX IF EXISTS `gauge_ibfk_2` TO `code`;
ALTER TABLE `gauge` ADD CONSTRAINT `gauge_ibfk_3` FOREIGN KEY (`name`) REFERENCES `station` (`name`);
ALTER TABLE `gauge` RENAME INDEX IF EXISTS `gauge_ibfk_3` TO `name`;
UNLOCK TABLES;
