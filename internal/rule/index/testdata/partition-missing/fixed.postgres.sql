-- create index reading_b_level_idx on partition public.reading_b
CREATE INDEX CONCURRENTLY reading_b_level_idx ON public.reading_b USING btree (level);

-- attach index reading_b_level_idx to reading_level
ALTER INDEX public.reading_level ATTACH PARTITION public.reading_b_level_idx;
