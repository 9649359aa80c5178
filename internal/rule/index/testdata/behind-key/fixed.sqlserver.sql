-- drop index station_code_again of dbo.station
DROP INDEX station_code_again ON dbo.station;

-- drop index station_id_again of dbo.station
DROP INDEX station_id_again ON dbo.station;
