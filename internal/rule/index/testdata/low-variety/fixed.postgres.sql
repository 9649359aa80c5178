-- forbid null in public.reading.grade: promise it
ALTER TABLE public.reading ADD CONSTRAINT nexdal_reading_grade_check CHECK (grade IS NOT NULL) NOT VALID;

-- forbid null in public.reading.grade: check the rows
ALTER TABLE public.reading VALIDATE CONSTRAINT nexdal_reading_grade_check;

-- forbid null in public.reading.grade
BEGIN;
ALTER TABLE public.reading ALTER COLUMN grade SET NOT NULL;
ALTER TABLE public.reading DROP CONSTRAINT nexdal_reading_grade_check;
COMMIT;

-- drop index reading_grade of public.reading
DROP INDEX CONCURRENTLY public.reading_grade;
