-- drop index station_code_again of public.station
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.station_code_again;
SET lock_timeout = '5s';

-- drop index station_id_again of public.station
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.station_id_again;
SET lock_timeout = '5s';
