-- sort the rows of public.reading
VACUUM SORT ONLY public.reading TO 100 PERCENT;
