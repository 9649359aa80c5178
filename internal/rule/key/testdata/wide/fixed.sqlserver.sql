-- add column sheet_id to dbo.mark
ALTER TABLE dbo.mark ADD sheet_id bigint NULL;

-- make a number, id, the primary key of dbo.sheet, and (station_id, year, page, line) a unique constraint
BEGIN TRANSACTION;
ALTER TABLE dbo.mark DROP CONSTRAINT mark_sheet;
ALTER TABLE dbo.sheet DROP CONSTRAINT [PK__sheet__E7FC4F864D197022];
ALTER TABLE dbo.sheet ADD CONSTRAINT sheet_station_id_year_page_line_key UNIQUE NONCLUSTERED (station_id, year, page, line);
ALTER TABLE dbo.sheet ADD id bigint IDENTITY(1,1) NOT NULL;
ALTER TABLE dbo.sheet ADD CONSTRAINT [PK__sheet__E7FC4F864D197022] PRIMARY KEY CLUSTERED (id);
ALTER TABLE dbo.mark WITH CHECK ADD CONSTRAINT mark_sheet FOREIGN KEY (station_id, year, page, line) REFERENCES dbo.sheet (station_id, year, page, line);
COMMIT;

-- fill dbo.mark.sheet_id with id of the row of dbo.sheet that (station_id, year, page, line) refers to
UPDATE c SET sheet_id = p.id FROM dbo.mark c JOIN dbo.sheet p ON p.station_id = c.station_id AND p.year = c.year AND p.page = c.page AND p.line = c.line WHERE c.sheet_id IS NULL;

-- create index mark_sheet_id_idx on dbo.mark
CREATE NONCLUSTERED INDEX mark_sheet_id_idx ON dbo.mark (sheet_id) WITH (ONLINE = ON, RESUMABLE = ON);

-- add foreign key mark_sheet_id_fkey to dbo.mark
ALTER TABLE dbo.mark WITH CHECK ADD CONSTRAINT mark_sheet_id_fkey FOREIGN KEY (sheet_id) REFERENCES dbo.sheet (id);
