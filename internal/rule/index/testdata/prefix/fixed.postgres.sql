-- make the unique index (serial) of public.gauge its unique constraint
ALTER TABLE public.gauge ADD CONSTRAINT gauge_serial UNIQUE USING INDEX gauge_serial;

-- drop index gauge_whole of public.gauge
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.gauge_whole;
SET lock_timeout = '5s';

-- drop index reading_gauge of public.reading
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.reading_gauge;
SET lock_timeout = '5s';

-- drop index reading_level_back of public.reading
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.reading_level_back;
SET lock_timeout = '5s';

-- drop index reading_level_one of public.reading
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.reading_level_one;
SET lock_timeout = '5s';
