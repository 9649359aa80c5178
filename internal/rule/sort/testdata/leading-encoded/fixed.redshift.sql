-- encode public.reading: taken_on raw
ALTER TABLE public.reading ALTER COLUMN taken_on ENCODE raw;
