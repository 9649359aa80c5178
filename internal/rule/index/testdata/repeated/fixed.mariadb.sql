-- drop index visit_id of visit
ALTER TABLE `visit` DROP INDEX `visit_id`, ALGORITHM=INPLACE, LOCK=NONE;

-- drop index visit_c of visit
ALTER TABLE `visit` DROP INDEX `visit_c`, ALGORITHM=INPLACE, LOCK=NONE;

-- drop index visit_b of visit
ALTER TABLE `visit` DROP INDEX `visit_b`, ALGORITHM=INPLACE, LOCK=NONE;
