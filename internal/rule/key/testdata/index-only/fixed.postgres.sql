-- make the unique index (code) of public.station its unique constraint
ALTER TABLE public.station ADD CONSTRAINT station_code UNIQUE USING INDEX station_code;
