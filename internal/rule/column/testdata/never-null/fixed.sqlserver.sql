-- forbid null in dbo.keeper.level_no
ALTER TABLE dbo.keeper ALTER COLUMN level_no int NOT NULL;
