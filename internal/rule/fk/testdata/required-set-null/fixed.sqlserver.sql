-- change foreign key mark_station of dbo.mark: on delete no action
BEGIN TRANSACTION;
ALTER TABLE dbo.mark DROP CONSTRAINT mark_station;
ALTER TABLE dbo.mark WITH CHECK ADD CONSTRAINT mark_station FOREIGN KEY (station_id) REFERENCES dbo.station (id);
COMMIT;
