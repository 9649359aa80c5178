-- forbid null in public.reading.day: promise it
ALTER TABLE public.reading ADD CONSTRAINT nexdal_reading_day_check CHECK (day IS NOT NULL) NOT VALID;

-- forbid null in public.reading.day: check the rows
ALTER TABLE public.reading VALIDATE CONSTRAINT nexdal_reading_day_check;

-- forbid null in public.reading.day
BEGIN;
ALTER TABLE public.reading ALTER COLUMN day SET NOT NULL;
ALTER TABLE public.reading DROP CONSTRAINT nexdal_reading_day_check;
COMMIT;

-- add partition level_rest to public.level
BEGIN;
CREATE TABLE public.level_rest (
  id integer NOT NULL,
  kind text
);
ALTER TABLE ONLY public.level ATTACH PARTITION public.level_rest DEFAULT;
COMMIT;
