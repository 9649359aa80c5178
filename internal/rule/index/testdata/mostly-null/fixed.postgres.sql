-- create index reading_flaw_filled_idx on public.reading
CREATE INDEX CONCURRENTLY reading_flaw_filled_idx ON public.reading USING btree (flaw) WHERE (flaw IS NOT NULL);

-- drop index reading_flaw of public.reading
DROP INDEX CONCURRENTLY public.reading_flaw;
