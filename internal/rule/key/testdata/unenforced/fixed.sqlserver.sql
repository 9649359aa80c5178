-- drop check level_low of dbo.level
ALTER TABLE dbo.level DROP CONSTRAINT level_low;

-- add check level_low to dbo.level
ALTER TABLE dbo.level WITH CHECK ADD CONSTRAINT level_low CHECK ([mm]>(0));
