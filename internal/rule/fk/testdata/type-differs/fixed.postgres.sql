-- change the type of public.gauge.height to numeric(8,2); change the type of public.gauge.label to text; change the type of public.gauge.station_code to character varying(8); change the type of public.gauge.station_id to bigint
ALTER TABLE public.gauge ALTER COLUMN height TYPE numeric(8,2) USING height::numeric(8,2), ALTER COLUMN label TYPE text USING label::text, ALTER COLUMN station_code TYPE character varying(8) USING station_code::character varying(8), ALTER COLUMN station_id TYPE bigint USING station_id::bigint;

-- change the type of public.middle.id to bigint
ALTER TABLE public.middle ALTER COLUMN id TYPE bigint USING id::bigint;

-- change the type of public.tail.middle_id to bigint
ALTER TABLE public.tail ALTER COLUMN middle_id TYPE bigint USING middle_id::bigint;

-- change the type of public.wide.small_id to smallint
ALTER TABLE public.wide ALTER COLUMN small_id TYPE smallint USING small_id::smallint;
