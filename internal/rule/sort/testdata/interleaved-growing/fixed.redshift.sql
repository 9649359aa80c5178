-- sort public.reading by taken_on, station_id
ALTER TABLE public.reading ALTER COMPOUND SORTKEY (taken_on, station_id);
