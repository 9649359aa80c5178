-- validate check level_q of dbo.level
ALTER TABLE dbo.level WITH CHECK CHECK CONSTRAINT level_q;
