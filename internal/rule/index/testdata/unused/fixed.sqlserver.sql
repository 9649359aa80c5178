-- drop index station_note of dbo.station
DROP INDEX station_note ON dbo.station;
