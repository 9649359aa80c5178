-- rebuild index reading_level of public.reading
REINDEX INDEX CONCURRENTLY public.reading_level;
