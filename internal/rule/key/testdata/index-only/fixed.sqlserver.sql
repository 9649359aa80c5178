-- make the unique index (code) of dbo.station its unique constraint
BEGIN TRANSACTION;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_station;
DROP INDEX station_code ON dbo.station;
ALTER TABLE dbo.station ADD CONSTRAINT station_code UNIQUE NONCLUSTERED (code) WITH (FILLFACTOR = 80);
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_station FOREIGN KEY (station_code) REFERENCES dbo.station (code);
COMMIT;
