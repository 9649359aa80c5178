-- drop check level_more of dbo.level
ALTER TABLE dbo.level DROP CONSTRAINT level_more;
