-- add check station_status_check to public.station
ALTER TABLE public.station ADD CONSTRAINT station_status_check CHECK ((status IN ('open', 'shut'))) NOT VALID;
ALTER TABLE public.station VALIDATE CONSTRAINT station_status_check;

-- add check station_role_check to public.station
ALTER TABLE public.station ADD CONSTRAINT station_role_check CHECK ((role = ANY (ARRAY[7, 8, 10]))) NOT VALID;
ALTER TABLE public.station VALIDATE CONSTRAINT station_role_check;
