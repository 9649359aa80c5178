-- forbid null in public.keeper.level_no
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_level_no_check CHECK (level_no IS NOT NULL) NOT VALID;
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_level_no_check;
ALTER TABLE public.keeper ALTER COLUMN level_no SET NOT NULL, DROP CONSTRAINT nexdal_keeper_level_no_check;

-- forbid null in public.keeper.pieces
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_pieces_check CHECK (pieces IS NOT NULL) NOT VALID;
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_pieces_check;
ALTER TABLE public.keeper ALTER COLUMN pieces SET NOT NULL, DROP CONSTRAINT nexdal_keeper_pieces_check;

-- add unique constraint (badge_number) to public.keeper: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY keeper_badge_number_key ON public.keeper USING btree (badge_number);
SET lock_timeout = '5s';

-- add unique constraint (badge_number) to public.keeper
ALTER TABLE public.keeper ADD CONSTRAINT keeper_badge_number_key UNIQUE USING INDEX keeper_badge_number_key;
