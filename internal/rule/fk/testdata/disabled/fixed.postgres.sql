-- change foreign key gauge_station of public.gauge: re-create it
BEGIN;
ALTER TABLE public.gauge DROP CONSTRAINT gauge_station;
ALTER TABLE public.gauge ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES public.station (id) NOT VALID;
COMMIT;

-- change foreign key gauge_station of public.gauge: re-create it: check the rows
ALTER TABLE public.gauge VALIDATE CONSTRAINT gauge_station;
