-- change foreign key gauge_station of public.gauge: on delete restrict
BEGIN;
ALTER TABLE public.gauge DROP CONSTRAINT gauge_station;
ALTER TABLE public.gauge ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES public.station (id) ON UPDATE CASCADE ON DELETE RESTRICT NOT VALID;
COMMIT;

-- change foreign key gauge_station of public.gauge: on delete restrict: check the rows
ALTER TABLE public.gauge VALIDATE CONSTRAINT gauge_station;

-- change foreign key level_station of public.level: on delete restrict, on update restrict
BEGIN;
ALTER TABLE public.level DROP CONSTRAINT level_station;
ALTER TABLE public.level ADD CONSTRAINT level_station FOREIGN KEY (station_id) REFERENCES public.station (id) ON UPDATE RESTRICT ON DELETE RESTRICT NOT VALID;
COMMIT;

-- change foreign key level_station of public.level: on delete restrict, on update restrict: check the rows
ALTER TABLE public.level VALIDATE CONSTRAINT level_station;

-- change foreign key pair_station of public.pair: on delete restrict
BEGIN;
ALTER TABLE public.pair DROP CONSTRAINT pair_station;
ALTER TABLE public.pair ADD CONSTRAINT pair_station FOREIGN KEY (station_id, part) REFERENCES public.station (id, part) ON DELETE RESTRICT NOT VALID;
COMMIT;

-- change foreign key pair_station of public.pair: on delete restrict: check the rows
ALTER TABLE public.pair VALIDATE CONSTRAINT pair_station;

-- change foreign key visit_other of public.visit: on delete restrict
BEGIN;
ALTER TABLE public.visit DROP CONSTRAINT visit_other;
ALTER TABLE public.visit ADD CONSTRAINT visit_other FOREIGN KEY (other_id) REFERENCES public.station (id) ON DELETE RESTRICT NOT VALID;
COMMIT;

-- change foreign key visit_other of public.visit: on delete restrict: check the rows
ALTER TABLE public.visit VALIDATE CONSTRAINT visit_other;
