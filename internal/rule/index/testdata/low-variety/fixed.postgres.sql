-- forbid null in public.reading.grade
ALTER TABLE public.reading ADD CONSTRAINT nexdal_reading_grade_check CHECK (grade IS NOT NULL) NOT VALID;
ALTER TABLE public.reading VALIDATE CONSTRAINT nexdal_reading_grade_check;
ALTER TABLE public.reading ALTER COLUMN grade SET NOT NULL, DROP CONSTRAINT nexdal_reading_grade_check;

-- drop index reading_grade of public.reading
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.reading_grade;
SET lock_timeout = '5s';
