-- add unique constraint (station_id, keeper_id) to dbo.station_keeper
ALTER TABLE dbo.station_keeper ADD CONSTRAINT station_keeper_station_id_keeper_id_key UNIQUE NONCLUSTERED (station_id, keeper_id) WITH (ONLINE = ON, RESUMABLE = ON);

-- drop index station_keeper_1 of dbo.station_keeper
DROP INDEX station_keeper_1 ON dbo.station_keeper;
