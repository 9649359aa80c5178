-- add partition reading_rest to public.reading
BEGIN;
CREATE TABLE public.reading_rest (
  id integer NOT NULL,
  day date NOT NULL
);
ALTER TABLE ONLY public.reading_rest ADD CONSTRAINT reading_rest_pkey PRIMARY KEY (id, day);
ALTER TABLE public.reading_rest OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_rest DEFAULT;
COMMIT;
