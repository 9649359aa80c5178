-- make the unique constraint (station_id) of dbo.detail its unique index
BEGIN TRANSACTION;
ALTER TABLE dbo.detail DROP CONSTRAINT [UQ__detail__CAA86375DBA6FD42];
CREATE UNIQUE NONCLUSTERED INDEX [UQ__detail__CAA86375DBA6FD42] ON dbo.detail (station_id) WHERE [station_id] IS NOT NULL;
COMMIT;

-- add check stock_part_id_part_no_check to dbo.stock
ALTER TABLE dbo.stock WITH CHECK ADD CONSTRAINT stock_part_id_part_no_check CHECK ([part_id] IS NULL AND [part_no] IS NULL OR [part_id] IS NOT NULL AND [part_no] IS NOT NULL);

-- create index stock_station_id_idx on dbo.stock
CREATE NONCLUSTERED INDEX stock_station_id_idx ON dbo.stock (station_id) WITH (ONLINE = ON, RESUMABLE = ON);

-- create index stock_part_id_part_no_idx on dbo.stock
CREATE NONCLUSTERED INDEX stock_part_id_part_no_idx ON dbo.stock (part_id, part_no) WITH (ONLINE = ON, RESUMABLE = ON);

-- create index visit_station_id_idx on dbo.visit
CREATE NONCLUSTERED INDEX visit_station_id_idx ON dbo.visit (station_id) WITH (ONLINE = ON, RESUMABLE = ON);
