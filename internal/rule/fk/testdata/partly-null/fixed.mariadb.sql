-- add check visit_station_day_check to visit
ALTER TABLE `visit` ADD CONSTRAINT `visit_station_day_check` CHECK (`station` is null = (`day` is null));
