-- rebuild index reading_level of public.reading
SET lock_timeout = '10min';
REINDEX INDEX CONCURRENTLY public.reading_level;
SET lock_timeout = '5s';
