-- change the type of dbo.d.station_mark to nvarchar(12)
BEGIN TRANSACTION;
ALTER TABLE dbo.d DROP CONSTRAINT ck_mark;
ALTER TABLE dbo.d DROP CONSTRAINT df_mark;
DROP INDEX d_mark ON dbo.d;
ALTER TABLE dbo.d ALTER COLUMN station_mark nvarchar(12) NOT NULL;
CREATE UNIQUE NONCLUSTERED INDEX d_mark ON dbo.d (station_mark DESC) INCLUDE (mm) WITH (FILLFACTOR = 90);
ALTER TABLE dbo.d WITH CHECK ADD CONSTRAINT ck_mark CHECK ([station_mark]<>N'');
ALTER TABLE dbo.d ADD CONSTRAINT df_mark DEFAULT (N'none') FOR station_mark;
COMMIT;
