-- add check station_status_check to station
ALTER TABLE `station` ADD CONSTRAINT `station_status_check` CHECK (`status` in ('open','shut'));

-- add check station_role_check to station
ALTER TABLE `station` ADD CONSTRAINT `station_role_check` CHECK (`role` in (7,8,10));
