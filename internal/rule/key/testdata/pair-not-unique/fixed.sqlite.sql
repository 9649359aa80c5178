-- create index assignment_keeper_id_role_id_key on main.assignment
CREATE UNIQUE INDEX assignment_keeper_id_role_id_key ON assignment (keeper_id, role_id);

-- create index assignment_role_id_idx on main.assignment
CREATE INDEX assignment_role_id_idx ON assignment (role_id);

-- create index keeper_roles_keeper_id_role_id_key on main.keeper_roles
CREATE UNIQUE INDEX keeper_roles_keeper_id_role_id_key ON keeper_roles (keeper_id, role_id);

-- create index membership_keeper_id_role_id_key on main.membership
CREATE UNIQUE INDEX membership_keeper_id_role_id_key ON membership (keeper_id, role_id);

-- create index station_keeper_keeper_id_station_id_key on main.station_keeper
CREATE UNIQUE INDEX station_keeper_keeper_id_station_id_key ON station_keeper (keeper_id, station_id);

-- drop index membership_keeper of main.membership
DROP INDEX membership_keeper;
