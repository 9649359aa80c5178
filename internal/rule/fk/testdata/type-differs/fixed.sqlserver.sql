-- change the type of dbo.gauge.code to nvarchar(8); change the type of dbo.gauge.name to nvarchar(40)
BEGIN TRANSACTION;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_code;
ALTER TABLE dbo.gauge DROP CONSTRAINT gauge_name;
DROP INDEX gauge_by_code ON dbo.gauge;
DROP INDEX gauge_by_name ON dbo.gauge;
ALTER TABLE dbo.gauge ALTER COLUMN code nvarchar(8) NULL;
ALTER TABLE dbo.gauge ALTER COLUMN name nvarchar(40) NULL;
CREATE NONCLUSTERED INDEX gauge_by_name ON dbo.gauge (name);
CREATE NONCLUSTERED INDEX gauge_by_code ON dbo.gauge (code);
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_code FOREIGN KEY (code) REFERENCES dbo.station (code) ON DELETE CASCADE;
ALTER TABLE dbo.gauge WITH CHECK ADD CONSTRAINT gauge_name FOREIGN KEY (name) REFERENCES dbo.station (name);
COMMIT;
