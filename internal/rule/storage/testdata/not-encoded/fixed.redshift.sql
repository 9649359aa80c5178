-- encode public.reading: station_id az64
ALTER TABLE public.reading ALTER COLUMN station_id ENCODE az64;
