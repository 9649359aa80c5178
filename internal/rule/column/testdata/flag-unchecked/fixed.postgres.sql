-- add check station_is_remote_check to public.station
ALTER TABLE public.station ADD CONSTRAINT station_is_remote_check CHECK ((is_remote = ANY (ARRAY[0, 1]))) NOT VALID;
ALTER TABLE public.station VALIDATE CONSTRAINT station_is_remote_check;

-- add check station_active_check to public.station
ALTER TABLE public.station ADD CONSTRAINT station_active_check CHECK ((active = ANY (ARRAY['N'::bpchar, 'Y'::bpchar]))) NOT VALID;
ALTER TABLE public.station VALIDATE CONSTRAINT station_active_check;
