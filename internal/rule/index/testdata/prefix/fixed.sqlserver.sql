-- drop index reading_gauge of dbo.reading
DROP INDEX reading_gauge ON dbo.reading;
