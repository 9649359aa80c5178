-- change the type of dbo.gauge.station_id to bigint; change the type of dbo.station.id to bigint
BEGIN TRANSACTION;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_station;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_real;
DROP INDEX gauge_by_station ON dbo.gauge;
ALTER TABLE dbo.station DROP CONSTRAINT pk_station;
ALTER TABLE dbo.gauge ALTER COLUMN station_id bigint NOT NULL;
ALTER TABLE dbo.station ALTER COLUMN id bigint NOT NULL;
ALTER TABLE dbo.station ADD CONSTRAINT pk_station PRIMARY KEY CLUSTERED (id);
CREATE NONCLUSTERED INDEX gauge_by_station ON dbo.gauge (station_id);
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_real CHECK ([station_id]>(0));
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES dbo.station (id) ON DELETE CASCADE;
COMMIT;
