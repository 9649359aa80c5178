-- rebuild index station_low of public.station
REINDEX INDEX CONCURRENTLY public.station_low;
