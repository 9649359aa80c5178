-- validate check level_low of public.level
ALTER TABLE public.level VALIDATE CONSTRAINT level_low;
