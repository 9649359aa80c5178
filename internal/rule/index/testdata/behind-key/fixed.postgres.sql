-- drop index station_code_again of public.station
DROP INDEX CONCURRENTLY public.station_code_again;

-- drop index station_id_again of public.station
DROP INDEX CONCURRENTLY public.station_id_again;
