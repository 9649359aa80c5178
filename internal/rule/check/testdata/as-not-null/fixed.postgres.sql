-- forbid null in public.level.mm: promise it
ALTER TABLE public.level ADD CONSTRAINT nexdal_level_mm_check CHECK (mm IS NOT NULL) NOT VALID;

-- forbid null in public.level.mm: check the rows
ALTER TABLE public.level VALIDATE CONSTRAINT nexdal_level_mm_check;

-- forbid null in public.level.mm
BEGIN;
ALTER TABLE public.level ALTER COLUMN mm SET NOT NULL;
ALTER TABLE public.level DROP CONSTRAINT nexdal_level_mm_check;
COMMIT;

-- drop check level_there of public.level
ALTER TABLE public.level DROP CONSTRAINT level_there;
