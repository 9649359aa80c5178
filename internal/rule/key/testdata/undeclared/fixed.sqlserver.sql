-- forbid null in dbo.keeper.level_no; forbid null in dbo.keeper.pieces
BEGIN TRANSACTION;
ALTER TABLE dbo.keeper ALTER COLUMN level_no int NOT NULL;
ALTER TABLE dbo.keeper ALTER COLUMN pieces int NOT NULL;
COMMIT;

-- add unique constraint (badge_number) to dbo.keeper
ALTER TABLE dbo.keeper ADD CONSTRAINT keeper_badge_number_key UNIQUE NONCLUSTERED (badge_number) WITH (ONLINE = ON, RESUMABLE = ON);
