-- create index reading_flaw_filled_idx on public.reading
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY reading_flaw_filled_idx ON public.reading USING btree (flaw) WHERE (flaw IS NOT NULL);
SET lock_timeout = '5s';

-- drop index reading_flaw of public.reading
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.reading_flaw;
SET lock_timeout = '5s';
