-- drop index gauge_code_ccnew of public.gauge
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.gauge_code_ccnew;
SET lock_timeout = '5s';

-- drop index gauge_upper_ccnew of public.gauge
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.gauge_upper_ccnew;
SET lock_timeout = '5s';

-- rebuild index gauge_upper of public.gauge
SET lock_timeout = '10min';
REINDEX INDEX CONCURRENTLY public.gauge_upper;
SET lock_timeout = '5s';

-- rebuild index station_low of public.station
SET lock_timeout = '10min';
REINDEX INDEX CONCURRENTLY public.station_low;
SET lock_timeout = '5s';

-- rebuild index tide_lower of public.tide
SET lock_timeout = '10min';
REINDEX INDEX CONCURRENTLY public.tide_lower;
SET lock_timeout = '5s';
