-- drop the default of public.station.code
ALTER TABLE public.station ALTER COLUMN code DROP DEFAULT;

-- drop the default of public.station.status
ALTER TABLE public.station ALTER COLUMN status DROP DEFAULT;

-- drop the default of public.station.grade
ALTER TABLE public.station ALTER COLUMN grade DROP DEFAULT;
