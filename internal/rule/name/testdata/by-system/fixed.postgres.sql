-- rename unique key station_code_key of public.station to uq_station_code
ALTER TABLE public.station RENAME CONSTRAINT station_code_key TO uq_station_code;
