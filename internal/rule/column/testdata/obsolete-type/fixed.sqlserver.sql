-- change the type of dbo.part.note to nvarchar(max); change the type of dbo.part.remark to varchar(max); change the type of dbo.part.photo to varbinary(max); change the type of dbo.part.made to datetime2(3); change the type of dbo.part.seen to datetime2(0)
BEGIN TRANSACTION;
ALTER TABLE dbo.part DROP CONSTRAINT df_made;
ALTER TABLE dbo.part ALTER COLUMN note nvarchar(max) NULL;
ALTER TABLE dbo.part ALTER COLUMN remark varchar(max) NULL;
ALTER TABLE dbo.part ALTER COLUMN photo varbinary(max) NULL;
ALTER TABLE dbo.part ALTER COLUMN made datetime2(3) NOT NULL;
ALTER TABLE dbo.part ALTER COLUMN seen datetime2(0) NULL;
ALTER TABLE dbo.part ADD CONSTRAINT df_made DEFAULT (getdate()) FOR made;
COMMIT;
