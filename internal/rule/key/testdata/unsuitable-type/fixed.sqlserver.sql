-- make the unique constraint (digest) of dbo.station its unique index
BEGIN TRANSACTION;
ALTER TABLE dbo.station DROP CONSTRAINT [UQ__station__CB73EB1E41C13172];
CREATE UNIQUE NONCLUSTERED INDEX [UQ__station__CB73EB1E41C13172] ON dbo.station (digest) WHERE [digest] IS NOT NULL;
COMMIT;
