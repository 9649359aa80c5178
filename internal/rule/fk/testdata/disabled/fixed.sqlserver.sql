-- change foreign key gauge_station of dbo.gauge: re-create it
ALTER TABLE dbo.gauge WITH CHECK CHECK CONSTRAINT gauge_station;
