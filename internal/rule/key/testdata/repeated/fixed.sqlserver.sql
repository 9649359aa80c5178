-- make the unique constraint (badge) of dbo.keeper its unique index
BEGIN TRANSACTION;
ALTER TABLE dbo.keeper DROP CONSTRAINT keeper_badge;
CREATE UNIQUE NONCLUSTERED INDEX keeper_badge ON dbo.keeper (badge) WHERE [badge] IS NOT NULL;
COMMIT;

-- drop unique constraint (code, name) of dbo.station
ALTER TABLE dbo.station DROP CONSTRAINT station_code_name;
