-- allow null in dbo.boat.berth_id
BEGIN TRANSACTION;
ALTER TABLE dbo.boat DROP CONSTRAINT boat_berth;
DROP INDEX boat_by_berth ON dbo.boat;
ALTER TABLE dbo.boat ALTER COLUMN berth_id int NULL;
CREATE NONCLUSTERED INDEX boat_by_berth ON dbo.boat (berth_id);
ALTER TABLE dbo.boat WITH CHECK ADD CONSTRAINT boat_berth FOREIGN KEY (berth_id) REFERENCES dbo.berth (id);
COMMIT;
