-- add check visit_station_day_check to dbo.visit
ALTER TABLE dbo.visit WITH CHECK ADD CONSTRAINT visit_station_day_check CHECK ([station] IS NULL AND [day] IS NULL OR [station] IS NOT NULL AND [day] IS NOT NULL);
