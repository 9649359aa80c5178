-- validate foreign key gauge_other of dbo.gauge
ALTER TABLE dbo.gauge WITH CHECK CHECK CONSTRAINT gauge_other;

-- validate foreign key gauge_station of dbo.gauge
ALTER TABLE dbo.gauge WITH CHECK CHECK CONSTRAINT gauge_station;
