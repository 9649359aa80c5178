-- give public.station.created_at the default CURRENT_TIMESTAMP
ALTER TABLE public.station ALTER COLUMN created_at SET DEFAULT CURRENT_TIMESTAMP;
