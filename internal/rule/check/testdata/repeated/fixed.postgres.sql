-- drop check level_more of public.level
ALTER TABLE public.level DROP CONSTRAINT level_more;
