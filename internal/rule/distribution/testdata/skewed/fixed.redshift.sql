-- spread public.reading evenly
ALTER TABLE public.reading ALTER DISTSTYLE EVEN;
