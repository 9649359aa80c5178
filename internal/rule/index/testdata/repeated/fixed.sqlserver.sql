-- make the unique index (note) of dbo.visit its unique constraint
BEGIN TRANSACTION;
DROP INDEX visit_note_unique ON dbo.visit;
ALTER TABLE dbo.visit ADD CONSTRAINT visit_note_unique UNIQUE NONCLUSTERED (note);
COMMIT;

-- make the unique constraint (note) of dbo.visit its unique index
BEGIN TRANSACTION;
ALTER TABLE dbo.visit DROP CONSTRAINT visit_note_unique;
CREATE UNIQUE NONCLUSTERED INDEX visit_note_unique ON dbo.visit (note) WHERE [note] IS NOT NULL;
COMMIT;

-- drop index task_one of dbo.task
DROP INDEX task_one ON dbo.task;

-- drop index task_two of dbo.task
DROP INDEX task_two ON dbo.task;

-- drop index visit_b of dbo.visit
DROP INDEX visit_b ON dbo.visit;

-- drop index visit_c of dbo.visit
DROP INDEX visit_c ON dbo.visit;

-- drop index visit_note of dbo.visit
DROP INDEX visit_note ON dbo.visit;

-- drop index visit_some_again of dbo.visit
DROP INDEX visit_some_again ON dbo.visit;
