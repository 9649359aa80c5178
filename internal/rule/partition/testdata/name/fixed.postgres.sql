-- add partition reading_rest to public.reading
BEGIN;
CREATE TABLE public.reading_rest (
  id integer NOT NULL,
  at date NOT NULL
);
ALTER TABLE ONLY public.reading_rest ADD CONSTRAINT reading_rest_pkey PRIMARY KEY (id, at);
ALTER TABLE public.reading_rest OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_rest DEFAULT;
COMMIT;

-- rename table public.readings93 to reading_2093
ALTER TABLE public.readings93 RENAME TO reading_2093;
