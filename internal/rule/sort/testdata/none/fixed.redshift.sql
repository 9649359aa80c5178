-- sort public.reading by taken_on
ALTER TABLE public.reading ALTER COMPOUND SORTKEY (taken_on);

-- encode public.reading: taken_on raw
ALTER TABLE public.reading ALTER COLUMN taken_on ENCODE raw;
