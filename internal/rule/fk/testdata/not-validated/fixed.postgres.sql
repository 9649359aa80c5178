-- validate foreign key visit_station of public.visit
ALTER TABLE public.visit VALIDATE CONSTRAINT visit_station;
