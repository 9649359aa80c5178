-- rebuild index station_low of public.station
SET lock_timeout = '10min';
REINDEX INDEX CONCURRENTLY public.station_low;
SET lock_timeout = '5s';
