-- forbid null in dbo.level.mm
BEGIN TRANSACTION;
ALTER TABLE dbo.level DROP CONSTRAINT level_one;
ALTER TABLE dbo.level DROP CONSTRAINT level_there;
ALTER TABLE dbo.level ALTER COLUMN mm int NOT NULL;
ALTER TABLE dbo.level WITH CHECK ADD CONSTRAINT level_one CHECK (mm IS NOT NULL OR q IS NOT NULL);
ALTER TABLE dbo.level WITH CHECK ADD CONSTRAINT level_there CHECK (mm IS NOT NULL);
COMMIT;

-- drop check level_there of dbo.level
ALTER TABLE dbo.level DROP CONSTRAINT level_there;
