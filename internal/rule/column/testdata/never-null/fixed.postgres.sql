-- forbid null in public.keeper.level_no: promise it
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_level_no_check CHECK (level_no IS NOT NULL) NOT VALID;

-- forbid null in public.keeper.level_no: check the rows
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_level_no_check;

-- forbid null in public.keeper.level_no
BEGIN;
ALTER TABLE public.keeper ALTER COLUMN level_no SET NOT NULL;
ALTER TABLE public.keeper DROP CONSTRAINT nexdal_keeper_level_no_check;
COMMIT;
