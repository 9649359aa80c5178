-- rebuild index station_code_id of dbo.station
ALTER INDEX station_code_id ON dbo.station REBUILD;

-- rebuild index tide_code of dbo.tide
ALTER INDEX tide_code ON dbo.tide REBUILD;
