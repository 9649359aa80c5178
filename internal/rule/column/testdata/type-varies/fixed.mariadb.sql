-- change the type of d.mm to int(11); change the type of d.station_mark to varchar(12)
ALTER TABLE `d` MODIFY COLUMN `mm` int(11) NULL, MODIFY COLUMN `station_mark` varchar(12) NOT NULL DEFAULT 'a''b' COMMENT 'it''s';
