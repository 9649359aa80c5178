-- forbid null in public.keeper.level_no
ALTER TABLE public.keeper ADD CONSTRAINT nexdal_keeper_level_no_check CHECK (level_no IS NOT NULL) NOT VALID;
ALTER TABLE public.keeper VALIDATE CONSTRAINT nexdal_keeper_level_no_check;
ALTER TABLE public.keeper ALTER COLUMN level_no SET NOT NULL, DROP CONSTRAINT nexdal_keeper_level_no_check;
