-- forbid null in public.reading.day
ALTER TABLE public.reading ADD CONSTRAINT nexdal_reading_day_check CHECK (day IS NOT NULL) NOT VALID;
ALTER TABLE public.reading VALIDATE CONSTRAINT nexdal_reading_day_check;
ALTER TABLE public.reading ALTER COLUMN day SET NOT NULL, DROP CONSTRAINT nexdal_reading_day_check;

-- add partition level_rest to public.level
BEGIN;
CREATE TABLE public.level_rest (
  id integer NOT NULL,
  kind text
);
ALTER TABLE public.level_rest OWNER TO postgres;
ALTER TABLE ONLY public.level ATTACH PARTITION public.level_rest DEFAULT;
COMMIT;
