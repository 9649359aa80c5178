-- change foreign key b_a of public.b: check it at the end of the transaction
ALTER TABLE public.b ALTER CONSTRAINT b_a DEFERRABLE INITIALLY DEFERRED;
