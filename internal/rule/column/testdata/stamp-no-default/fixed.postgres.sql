-- set the default of public.station.created_at to CURRENT_TIMESTAMP
ALTER TABLE public.station ALTER COLUMN created_at SET DEFAULT CURRENT_TIMESTAMP;
