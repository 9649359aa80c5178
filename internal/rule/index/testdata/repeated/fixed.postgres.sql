-- drop index task_one of public.task
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.task_one;
SET lock_timeout = '5s';

-- drop index task_two of public.task
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.task_two;
SET lock_timeout = '5s';

-- drop index visit_b of public.visit
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.visit_b;
SET lock_timeout = '5s';

-- drop index visit_c of public.visit
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.visit_c;
SET lock_timeout = '5s';

-- drop index visit_note of public.visit
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.visit_note;
SET lock_timeout = '5s';

-- drop index visit_some_again of public.visit
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.visit_some_again;
SET lock_timeout = '5s';
