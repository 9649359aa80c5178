-- create index reading_flaw_filled_idx on dbo.reading
CREATE NONCLUSTERED INDEX reading_flaw_filled_idx ON dbo.reading (flaw) WHERE [flaw] IS NOT NULL WITH (ONLINE = ON);

-- drop index reading_flaw of dbo.reading
DROP INDEX reading_flaw ON dbo.reading;
