-- add unique constraint (station_id) to dbo.sheet
ALTER TABLE dbo.sheet ADD CONSTRAINT sheet_station_id_key UNIQUE NONCLUSTERED (station_id) WITH (ONLINE = ON, RESUMABLE = ON);

-- add foreign key mooring_buoy_id_fkey to dbo.mooring
ALTER TABLE dbo.mooring WITH CHECK ADD CONSTRAINT mooring_buoy_id_fkey FOREIGN KEY (buoy_id) REFERENCES dbo.buoy (id);

-- drop index sheet_by_station of dbo.sheet
DROP INDEX sheet_by_station ON dbo.sheet;
