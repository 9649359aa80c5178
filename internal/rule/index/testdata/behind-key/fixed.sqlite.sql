-- drop index station_code_again of main.station
DROP INDEX station_code_again;

-- drop index station_id_again of main.station
DROP INDEX station_id_again;
