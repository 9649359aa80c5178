-- make the unique constraint (station, day) of public.sheet its unique constraint without distinct nulls: build the index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY nexdal_sheet_day_idx ON public.sheet USING btree (station, day) NULLS NOT DISTINCT;
SET lock_timeout = '5s';

-- make the unique constraint (station, day) of public.sheet its unique constraint without distinct nulls
BEGIN;
ALTER TABLE public.sheet DROP CONSTRAINT sheet_day;
ALTER INDEX public.nexdal_sheet_day_idx RENAME TO sheet_day;
ALTER TABLE public.sheet ADD CONSTRAINT sheet_day UNIQUE USING INDEX sheet_day;
COMMIT;
