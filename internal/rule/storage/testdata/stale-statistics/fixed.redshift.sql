-- take the figures of public.reading anew
ANALYZE public.reading;
