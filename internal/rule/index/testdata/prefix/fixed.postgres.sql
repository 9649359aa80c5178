-- make the unique index (serial) of public.gauge its unique constraint
ALTER TABLE public.gauge ADD CONSTRAINT gauge_serial UNIQUE USING INDEX gauge_serial;

-- drop index gauge_whole of public.gauge
DROP INDEX CONCURRENTLY public.gauge_whole;

-- drop index reading_gauge of public.reading
DROP INDEX CONCURRENTLY public.reading_gauge;

-- drop index reading_level_back of public.reading
DROP INDEX CONCURRENTLY public.reading_level_back;

-- drop index reading_level_one of public.reading
DROP INDEX CONCURRENTLY public.reading_level_one;
