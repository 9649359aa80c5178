-- add check station_is_remote_check to station
ALTER TABLE `station` ADD CONSTRAINT `station_is_remote_check` CHECK (`is_remote` in (0,1));

-- add check station_active_check to station
ALTER TABLE `station` ADD CONSTRAINT `station_active_check` CHECK (`active` in ('N','Y'));
