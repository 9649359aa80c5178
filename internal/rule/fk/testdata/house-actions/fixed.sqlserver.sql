-- change foreign key gauge_station of dbo.gauge: on delete no action
BEGIN TRANSACTION;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_station;
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES dbo.station (id);
COMMIT;
