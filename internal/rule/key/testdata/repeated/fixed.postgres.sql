-- make the unique constraint (badge, town) of public.keeper its unique constraint without distinct nulls: build the index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY nexdal_keeper_badge_town_idx ON public.keeper USING btree (badge, town) NULLS NOT DISTINCT;
SET lock_timeout = '5s';

-- make the unique constraint (badge, town) of public.keeper its unique constraint without distinct nulls
BEGIN;
ALTER TABLE public.keeper DROP CONSTRAINT keeper_badge_town;
ALTER INDEX public.nexdal_keeper_badge_town_idx RENAME TO keeper_badge_town;
ALTER TABLE public.keeper ADD CONSTRAINT keeper_badge_town UNIQUE USING INDEX keeper_badge_town;
COMMIT;

-- drop unique constraint (code, name) of public.station
ALTER TABLE public.station DROP CONSTRAINT station_code_name;
