-- add check station_status_check to station
ALTER TABLE `station` ADD CONSTRAINT `station_status_check` CHECK (`status` in ('open','shut'));
