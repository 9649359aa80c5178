-- drop index task_one of main.task
DROP INDEX task_one;

-- drop index task_two of main.task
DROP INDEX task_two;

-- drop index visit_b of main.visit
DROP INDEX visit_b;

-- drop index visit_c of main.visit
DROP INDEX visit_c;

-- drop index visit_note of main.visit
DROP INDEX visit_note;

-- drop index visit_some_again of main.visit
DROP INDEX visit_some_again;
