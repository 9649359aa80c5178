-- add unique constraint (station_id) to public.sheet: build its index
CREATE UNIQUE INDEX CONCURRENTLY sheet_station_id_key ON public.sheet USING btree (station_id);

-- add unique constraint (station_id) to public.sheet
ALTER TABLE public.sheet ADD CONSTRAINT sheet_station_id_key UNIQUE USING INDEX sheet_station_id_key;

-- drop index sheet_by_station of public.sheet
DROP INDEX CONCURRENTLY public.sheet_by_station;
