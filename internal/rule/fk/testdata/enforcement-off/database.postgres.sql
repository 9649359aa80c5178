-- The setting is kept in the database.
CREATE TABLE station (id bigint PRIMARY KEY);
CREATE TABLE gauge (id bigint PRIMARY KEY, station_id bigint REFERENCES station (id));
CREATE INDEX ON gauge (station_id);
DO $$ BEGIN EXECUTE format('ALTER DATABASE %I SET session_replication_role = replica', current_database()); END $$;
-- want-database: fk/enforcement-off "none of the 1 foreign key is enforced"
