-- set the default of public.reading_2091.level to 0
ALTER TABLE public.reading_2091 ALTER COLUMN level SET DEFAULT 0;

-- add partition mark_rest to public.mark
BEGIN;
CREATE TABLE public.mark_rest (
  id integer NOT NULL,
  at date NOT NULL,
  level integer
);
ALTER TABLE ONLY public.mark_rest ADD CONSTRAINT mark_rest_pkey PRIMARY KEY (id, at);
ALTER TABLE public.mark_rest OWNER TO postgres;
ALTER TABLE ONLY public.mark ATTACH PARTITION public.mark_rest DEFAULT;
COMMIT;

-- add partition reading_rest to public.reading
BEGIN;
CREATE TABLE public.reading_rest (
  id integer NOT NULL,
  at date NOT NULL,
  level integer DEFAULT 0
);
ALTER TABLE ONLY public.reading_rest ADD CONSTRAINT reading_rest_pkey PRIMARY KEY (id, at);
ALTER TABLE public.reading_rest OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_rest DEFAULT;
COMMIT;

-- add partition tide_rest to public.tide
BEGIN;
CREATE TABLE public.tide_rest (
  id integer NOT NULL,
  at date NOT NULL,
  level integer
);
ALTER TABLE ONLY public.tide_rest ADD CONSTRAINT tide_rest_pkey PRIMARY KEY (id, at);
ALTER TABLE public.tide_rest OWNER TO postgres;
ALTER TABLE ONLY public.tide ATTACH PARTITION public.tide_rest DEFAULT;
COMMIT;
