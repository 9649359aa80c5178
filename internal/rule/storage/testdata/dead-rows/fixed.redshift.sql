-- reclaim the space of dead rows in public.reading
VACUUM DELETE ONLY public.reading TO 100 PERCENT;
