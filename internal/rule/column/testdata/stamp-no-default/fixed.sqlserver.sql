-- set the default of dbo.station.created_at to sysdatetimeoffset()
ALTER TABLE dbo.station ADD CONSTRAINT [DF_station_created_at] DEFAULT (sysdatetimeoffset()) FOR created_at;
