-- add unique constraint (station_id) to public.sheet: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY sheet_station_id_key ON public.sheet USING btree (station_id);
SET lock_timeout = '5s';

-- add unique constraint (station_id) to public.sheet
ALTER TABLE public.sheet ADD CONSTRAINT sheet_station_id_key UNIQUE USING INDEX sheet_station_id_key;

-- add foreign key mooring_buoy_id_fkey to public.mooring
ALTER TABLE public.mooring ADD CONSTRAINT mooring_buoy_id_fkey FOREIGN KEY (buoy_id) REFERENCES public.buoy (id) NOT VALID;
ALTER TABLE public.mooring VALIDATE CONSTRAINT mooring_buoy_id_fkey;

-- drop index sheet_by_station of public.sheet
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.sheet_by_station;
SET lock_timeout = '5s';
