-- validate check level_low of dbo.level
ALTER TABLE dbo.level WITH CHECK CHECK CONSTRAINT level_low;
