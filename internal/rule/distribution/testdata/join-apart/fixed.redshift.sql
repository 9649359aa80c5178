-- spread public.leg by voyage_id
ALTER TABLE public.leg ALTER DISTSTYLE KEY DISTKEY voyage_id;

-- spread public.voyage by id
ALTER TABLE public.voyage ALTER DISTSTYLE KEY DISTKEY id;
