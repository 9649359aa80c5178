-- add check stock_part_id_part_no_check to public.stock
ALTER TABLE public.stock ADD CONSTRAINT stock_part_id_part_no_check CHECK (((part_id IS NULL) = (part_no IS NULL))) NOT VALID;
ALTER TABLE public.stock VALIDATE CONSTRAINT stock_part_id_part_no_check;

-- create index stock_part_id_part_no_idx on public.stock
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY stock_part_id_part_no_idx ON public.stock USING btree (part_id, part_no);
SET lock_timeout = '5s';

-- create index stock_station_id_idx on public.stock
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY stock_station_id_idx ON public.stock USING btree (station_id);
SET lock_timeout = '5s';

-- create index visit_station_id_idx on public.visit
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY visit_station_id_idx ON public.visit USING btree (station_id);
SET lock_timeout = '5s';
