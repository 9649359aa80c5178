-- sort public.reading by a, b, c, d
ALTER TABLE public.reading ALTER COMPOUND SORTKEY (a, b, c, d);
