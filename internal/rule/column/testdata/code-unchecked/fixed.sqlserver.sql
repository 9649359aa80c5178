-- add check station_status_check to dbo.station
ALTER TABLE dbo.station WITH CHECK ADD CONSTRAINT station_status_check CHECK ([status]='shut' OR [status]='open');

-- add check station_role_check to dbo.station
ALTER TABLE dbo.station WITH CHECK ADD CONSTRAINT station_role_check CHECK ([role]=(10) OR [role]=(8) OR [role]=(7));
