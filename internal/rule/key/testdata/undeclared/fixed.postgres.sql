-- forbid null in public.keeper.level_no: promise it
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_level_no_check CHECK (level_no IS NOT NULL) NOT VALID;

-- forbid null in public.keeper.level_no: check the rows
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_level_no_check;

-- forbid null in public.keeper.level_no
BEGIN;
ALTER TABLE public.keeper ALTER COLUMN level_no SET NOT NULL;
ALTER TABLE public.keeper DROP CONSTRAINT nexdal_keeper_level_no_check;
COMMIT;

-- forbid null in public.keeper.pieces: promise it
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_pieces_check CHECK (pieces IS NOT NULL) NOT VALID;

-- forbid null in public.keeper.pieces: check the rows
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_pieces_check;

-- forbid null in public.keeper.pieces
BEGIN;
ALTER TABLE public.keeper ALTER COLUMN pieces SET NOT NULL;
ALTER TABLE public.keeper DROP CONSTRAINT nexdal_keeper_pieces_check;
COMMIT;

-- add unique constraint (badge_number) to public.keeper: build its index
CREATE UNIQUE INDEX CONCURRENTLY keeper_badge_number_key ON public.keeper USING btree (badge_number);

-- add unique constraint (badge_number) to public.keeper
ALTER TABLE public.keeper ADD CONSTRAINT keeper_badge_number_key UNIQUE USING INDEX keeper_badge_number_key;
