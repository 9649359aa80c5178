-- make the unique constraint (page) of dbo.sheet its unique index
BEGIN TRANSACTION;
ALTER TABLE dbo.sheet DROP CONSTRAINT sheet_page;
CREATE UNIQUE NONCLUSTERED INDEX sheet_page ON dbo.sheet (page DESC) WHERE [page] IS NOT NULL WITH (FILLFACTOR = 80);
COMMIT;
