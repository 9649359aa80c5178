-- create index reading_flaw_filled_idx on main.reading
CREATE INDEX reading_flaw_filled_idx ON reading (flaw) WHERE flaw IS NOT NULL;

-- drop index reading_flaw of main.reading
DROP INDEX reading_flaw;
