-- analyze public.reading
ANALYZE public.reading;
