-- drop index task_one of public.task
DROP INDEX CONCURRENTLY public.task_one;

-- drop index task_two of public.task
DROP INDEX CONCURRENTLY public.task_two;

-- drop index visit_b of public.visit
DROP INDEX CONCURRENTLY public.visit_b;

-- drop index visit_c of public.visit
DROP INDEX CONCURRENTLY public.visit_c;

-- drop index visit_note of public.visit
DROP INDEX CONCURRENTLY public.visit_note;

-- drop index visit_some_again of public.visit
DROP INDEX CONCURRENTLY public.visit_some_again;
