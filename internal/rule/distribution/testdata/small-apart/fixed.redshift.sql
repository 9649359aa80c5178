-- spread public.kind on every node
ALTER TABLE public.kind ALTER DISTSTYLE ALL;
