-- rename foreign key gauge_at of public.gauge to fk_gauge_station
ALTER TABLE public.gauge RENAME CONSTRAINT gauge_at TO fk_gauge_station;

-- rename index gauge_station of public.gauge to ix_gauge_station_id
ALTER INDEX public.gauge_station RENAME TO ix_gauge_station_id;

-- rename primary key pk_g of public.gauge to pk_gauge
ALTER TABLE public.gauge RENAME CONSTRAINT pk_g TO pk_gauge;
