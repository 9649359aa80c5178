-- give public.reading_2091.level the default 0
ALTER TABLE public.reading_2091 ALTER COLUMN level SET DEFAULT 0;
