-- change foreign key visit_of of dbo.visit: re-create it
ALTER TABLE dbo.visit WITH CHECK CHECK CONSTRAINT visit_of;
