-- add check station_is_remote_check to dbo.station
ALTER TABLE dbo.station WITH CHECK ADD CONSTRAINT station_is_remote_check CHECK ([is_remote]=(1) OR [is_remote]=(0));

-- add check station_active_check to dbo.station
ALTER TABLE dbo.station WITH CHECK ADD CONSTRAINT station_active_check CHECK ([active]='Y' OR [active]='N');
