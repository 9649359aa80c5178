-- number id of dbo.visit from a sequence of its own, visit_id_seq
BEGIN TRANSACTION;
CREATE SEQUENCE dbo.visit_id_seq AS bigint START WITH 1 INCREMENT BY 1 MINVALUE -9223372036854775808 MAXVALUE 9223372036854775807 NO CYCLE CACHE;
DECLARE @past bigint = NEXT VALUE FOR dbo.numbers DECLARE @next bigint = (SELECT CASE WHEN max(id) >= @past THEN max(id) + 1 ELSE @past END FROM dbo.visit WITH (TABLOCKX, HOLDLOCK)) DECLARE @sql nvarchar(max) = N'ALTER SEQUENCE dbo.visit_id_seq RESTART WITH ' + CAST(@next AS nvarchar(20)) EXEC (@sql);
ALTER TABLE dbo.visit DROP CONSTRAINT df_visit;
ALTER TABLE dbo.visit ADD CONSTRAINT df_visit DEFAULT (NEXT VALUE FOR [dbo].[visit_id_seq]) FOR id;
COMMIT;
