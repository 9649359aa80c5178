-- add partition reading_2031 to public.reading
BEGIN;
CREATE TABLE public.reading_2031 (
  id integer NOT NULL,
  at date NOT NULL
);
ALTER TABLE ONLY public.reading_2031 ADD CONSTRAINT reading_2031_pkey PRIMARY KEY (id, at);
ALTER TABLE public.reading_2031 OWNER TO postgres;
ALTER TABLE ONLY public.reading ATTACH PARTITION public.reading_2031 FOR VALUES FROM ('2031-01-01') TO ('2032-01-01');
COMMIT;

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

-- add partition sound_rest to public.sound
BEGIN;
CREATE TABLE public.sound_rest (
  id integer NOT NULL,
  at date NOT NULL
);
ALTER TABLE ONLY public.sound_rest ADD CONSTRAINT sound_rest_pkey PRIMARY KEY (id, at);
ALTER TABLE public.sound_rest OWNER TO postgres;
ALTER TABLE ONLY public.sound ATTACH PARTITION public.sound_rest DEFAULT;
COMMIT;

-- add partition visit_part_1 to public.visit
BEGIN;
CREATE TABLE public.visit_part_1 (
  id integer NOT NULL,
  note text
);
ALTER TABLE ONLY public.visit_part_1 ADD CONSTRAINT visit_part_1_pkey PRIMARY KEY (id);
ALTER TABLE public.visit_part_1 OWNER TO postgres;
ALTER TABLE ONLY public.visit ATTACH PARTITION public.visit_part_1 FOR VALUES WITH (modulus 4, remainder 1);
COMMIT;
