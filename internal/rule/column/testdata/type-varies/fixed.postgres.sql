-- change the type of public.d.station_mark to character varying(12)
ALTER TABLE public.d ALTER COLUMN station_mark TYPE character varying(12) USING station_mark::character varying(12);
