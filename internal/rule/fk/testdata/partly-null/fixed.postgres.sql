-- add check visit_station_day_check to public.visit
ALTER TABLE public.visit ADD CONSTRAINT visit_station_day_check CHECK (((station IS NULL) = (day IS NULL))) NOT VALID;
ALTER TABLE public.visit VALIDATE CONSTRAINT visit_station_day_check;
