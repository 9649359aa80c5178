-- create index reading_b_level_idx on partition public.reading_b
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY reading_b_level_idx ON public.reading_b USING btree (level);
SET lock_timeout = '5s';

-- attach index reading_b_level_idx to reading_level
ALTER INDEX public.reading_level ATTACH PARTITION public.reading_b_level_idx;

-- add partition reading_rest to public.reading
BEGIN;
CREATE TABLE public.reading_rest (
  at date NOT NULL,
  level integer
);
ALTER TABLE ONLY public.reading_rest ADD CONSTRAINT reading_rest_pkey PRIMARY KEY (at);
CREATE INDEX reading_rest_level ON public.reading_rest USING btree (level);
ALTER TABLE public.reading_rest OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_rest DEFAULT;
COMMIT;
