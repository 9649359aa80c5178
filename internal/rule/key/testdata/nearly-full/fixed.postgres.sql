-- change the type of public.gauge.station_id to bigint
ALTER TABLE public.gauge ALTER COLUMN station_id TYPE bigint USING station_id::bigint;

-- change the type of public.station.id to bigint
ALTER TABLE public.station ALTER COLUMN id TYPE bigint USING id::bigint;
