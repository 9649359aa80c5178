-- add partition reading_rest to public.reading
BEGIN;
CREATE TABLE public.reading_rest (
  id integer NOT NULL,
  at date NOT NULL
);
ALTER TABLE public.reading_rest OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_rest DEFAULT;
COMMIT;
