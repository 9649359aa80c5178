-- add unique constraint (station_id) to public.sheet: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY sheet_station_id_key ON public.sheet USING btree (station_id);
SET lock_timeout = '5s';

-- add unique constraint (station_id) to public.sheet
ALTER TABLE public.sheet ADD CONSTRAINT sheet_station_id_key UNIQUE USING INDEX sheet_station_id_key;

-- drop index sheet_by_station of public.sheet
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.sheet_by_station;
SET lock_timeout = '5s';
