-- drop the default of dbo.station.code
ALTER TABLE dbo.station DROP CONSTRAINT [DF__station__code__35BCFE1A];

-- drop the default of dbo.station.status
ALTER TABLE dbo.station DROP CONSTRAINT [DF__station__statu__35BCFE2A];

-- drop the default of dbo.station.grade
ALTER TABLE dbo.station DROP CONSTRAINT [DF__station__grade__35BCFE4A];
