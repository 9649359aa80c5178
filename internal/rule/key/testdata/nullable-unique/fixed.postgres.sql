-- forbid null in public.roster.day
ALTER TABLE public.roster ADD CONSTRAINT nexdal_roster_day_check CHECK (day IS NOT NULL) NOT VALID;
ALTER TABLE public.roster VALIDATE CONSTRAINT nexdal_roster_day_check;
ALTER TABLE public.roster ALTER COLUMN day SET NOT NULL, DROP CONSTRAINT nexdal_roster_day_check;

-- forbid null in public.roster.watch
ALTER TABLE public.roster ADD CONSTRAINT nexdal_roster_watch_check CHECK (watch IS NOT NULL) NOT VALID;
ALTER TABLE public.roster VALIDATE CONSTRAINT nexdal_roster_watch_check;
ALTER TABLE public.roster ALTER COLUMN watch SET NOT NULL, DROP CONSTRAINT nexdal_roster_watch_check;

-- make the unique constraint (station, day) of public.roster its unique constraint without distinct nulls: build the index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY nexdal_roster_station_idx ON public.roster USING btree (station, day) NULLS NOT DISTINCT;
SET lock_timeout = '5s';

-- make the unique constraint (station, day) of public.roster its unique constraint without distinct nulls
BEGIN;
ALTER TABLE public.roster DROP CONSTRAINT roster_station;
ALTER INDEX public.nexdal_roster_station_idx RENAME TO roster_station;
ALTER TABLE public.roster ADD CONSTRAINT roster_station UNIQUE USING INDEX roster_station;
COMMIT;

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

-- drop check roster_day of public.roster
ALTER TABLE public.roster DROP CONSTRAINT roster_day;

-- drop check roster_watch of public.roster
ALTER TABLE public.roster DROP CONSTRAINT roster_watch;
