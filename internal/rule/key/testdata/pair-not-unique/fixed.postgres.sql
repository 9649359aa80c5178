-- add unique constraint (keeper_id, role_id) to public.assignment: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY assignment_keeper_id_role_id_key ON public.assignment USING btree (keeper_id, role_id);
SET lock_timeout = '5s';

-- add unique constraint (keeper_id, role_id) to public.assignment
ALTER TABLE public.assignment ADD CONSTRAINT assignment_keeper_id_role_id_key UNIQUE USING INDEX assignment_keeper_id_role_id_key;

-- add unique constraint (keeper_id, role_id) to public.keeper_roles: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY keeper_roles_keeper_id_role_id_key ON public.keeper_roles USING btree (keeper_id, role_id);
SET lock_timeout = '5s';

-- add unique constraint (keeper_id, role_id) to public.keeper_roles
ALTER TABLE public.keeper_roles ADD CONSTRAINT keeper_roles_keeper_id_role_id_key UNIQUE USING INDEX keeper_roles_keeper_id_role_id_key;

-- add unique constraint (keeper_id, role_id) to public.membership: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY membership_keeper_id_role_id_key ON public.membership USING btree (keeper_id, role_id);
SET lock_timeout = '5s';

-- add unique constraint (keeper_id, role_id) to public.membership
ALTER TABLE public.membership ADD CONSTRAINT membership_keeper_id_role_id_key UNIQUE USING INDEX membership_keeper_id_role_id_key;

-- add unique constraint (keeper_id, station_id) to public.station_keeper: build its index
SET lock_timeout = '10min';
CREATE UNIQUE INDEX CONCURRENTLY station_keeper_keeper_id_station_id_key ON public.station_keeper USING btree (keeper_id, station_id);
SET lock_timeout = '5s';

-- add unique constraint (keeper_id, station_id) to public.station_keeper
ALTER TABLE public.station_keeper ADD CONSTRAINT station_keeper_keeper_id_station_id_key UNIQUE USING INDEX station_keeper_keeper_id_station_id_key;

-- create index assignment_role_id_idx on public.assignment
SET lock_timeout = '10min';
CREATE INDEX CONCURRENTLY assignment_role_id_idx ON public.assignment USING btree (role_id);
SET lock_timeout = '5s';

-- drop index membership_keeper of public.membership
SET lock_timeout = '10min';
DROP INDEX CONCURRENTLY public.membership_keeper;
SET lock_timeout = '5s';
