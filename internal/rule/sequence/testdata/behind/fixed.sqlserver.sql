-- advance the next number of dbo.keeper.id past the largest
DBCC CHECKIDENT (N'dbo.keeper', RESEED) WITH NO_INFOMSGS;

-- advance sequence numbers past the largest id of dbo.station
DECLARE @next bigint = (SELECT max(id) + 1 FROM dbo.station WITH (TABLOCKX, HOLDLOCK)) DECLARE @sql nvarchar(max) = N'ALTER SEQUENCE dbo.numbers RESTART WITH ' + CAST(@next AS nvarchar(20)) EXEC (@sql);
