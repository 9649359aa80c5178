-- forbid null in public.level.mm
ALTER TABLE public.level ADD CONSTRAINT nexdal_level_mm_check CHECK (mm IS NOT NULL) NOT VALID;
ALTER TABLE public.level VALIDATE CONSTRAINT nexdal_level_mm_check;
ALTER TABLE public.level ALTER COLUMN mm SET NOT NULL, DROP CONSTRAINT nexdal_level_mm_check;

-- drop check level_there of public.level
ALTER TABLE public.level DROP CONSTRAINT level_there;
