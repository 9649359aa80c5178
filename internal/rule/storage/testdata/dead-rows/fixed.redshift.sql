-- reclaim the room of rows that are gone from public.reading
VACUUM DELETE ONLY public.reading TO 100 PERCENT;
