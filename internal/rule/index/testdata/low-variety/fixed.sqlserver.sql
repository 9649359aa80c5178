-- forbid null in dbo.reading.grade
BEGIN TRANSACTION;
DROP INDEX reading_grade ON dbo.reading;
ALTER TABLE dbo.reading ALTER COLUMN grade int NOT NULL;
CREATE NONCLUSTERED INDEX reading_grade ON dbo.reading (grade);
COMMIT;

-- drop index reading_grade of dbo.reading
DROP INDEX reading_grade ON dbo.reading;
