-- validate check level_q of public.level
ALTER TABLE public.level VALIDATE CONSTRAINT level_q;
