-- change the type of public.part.price to numeric(20,2)
ALTER TABLE public.part ALTER COLUMN price TYPE numeric(20,2) USING price::numeric(20,2);
