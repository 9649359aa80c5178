-- spread public.visit evenly
ALTER TABLE public.visit ALTER DISTSTYLE EVEN;
