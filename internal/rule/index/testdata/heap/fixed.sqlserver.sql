-- keep the rows of dbo.station in the order of its primary key (id)
BEGIN TRANSACTION;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_station;
ALTER TABLE dbo.station DROP CONSTRAINT pk_station;
ALTER TABLE dbo.station ADD CONSTRAINT pk_station PRIMARY KEY CLUSTERED (id);
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES dbo.station (id);
COMMIT;
