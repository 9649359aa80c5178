-- Linking tables, and tables that only look like one.
CREATE TABLE station (id INTEGER PRIMARY KEY);
CREATE TABLE keeper (id INTEGER PRIMARY KEY);
CREATE TABLE role (id INTEGER PRIMARY KEY);
CREATE TABLE station_keeper (id INTEGER PRIMARY KEY,  -- want: key/pair-not-unique "station and keeper"
  station_id bigint NOT NULL REFERENCES station (id),
  keeper_id bigint NOT NULL REFERENCES keeper (id),  -- want: fk/not-indexed
  created_at text NOT NULL DEFAULT CURRENT_TIMESTAMP, created_by bigint REFERENCES keeper (id));
CREATE INDEX station_keeper_1 ON station_keeper (station_id);  -- the new key must not make it needless
CREATE INDEX station_keeper_2 ON station_keeper (created_by);

CREATE TABLE assignment (id INTEGER PRIMARY KEY,  -- want: key/pair-not-unique "keeper and role"
  keeper_id bigint REFERENCES keeper (id),  -- want: fk/not-indexed
  role_id bigint REFERENCES role (id));     -- want: fk/not-indexed

-- Both columns have an index already: one of them goes with the fix.
CREATE TABLE membership (id INTEGER PRIMARY KEY,  -- want: key/pair-not-unique
  keeper_id bigint NOT NULL REFERENCES keeper (id), role_id bigint NOT NULL REFERENCES role (id));
CREATE INDEX membership_keeper ON membership (keeper_id);
CREATE INDEX membership_role ON membership (role_id);

-- Kept unique: by a key, by an index, on a part, with more columns.
CREATE TABLE a (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id), UNIQUE (station_id, keeper_id));
CREATE INDEX a_2 ON a (keeper_id);
CREATE TABLE b (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL UNIQUE REFERENCES keeper (id));
CREATE INDEX b_1 ON b (station_id);
CREATE TABLE c (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id), gone bigint);
CREATE UNIQUE INDEX c_1 ON c (station_id, keeper_id) WHERE gone IS NULL;
CREATE INDEX c_2 ON c (keeper_id);
CREATE INDEX c_3 ON c (station_id);
-- The references are the key.
CREATE TABLE d (station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id), PRIMARY KEY (station_id, keeper_id));
CREATE INDEX d_2 ON d (keeper_id);
-- Named after what it links, it may say one thing more; a line of an order is no link.
CREATE TABLE keeper_roles (id INTEGER PRIMARY KEY,  -- want: key/pair-not-unique
  keeper_id bigint NOT NULL REFERENCES keeper (id),  -- want: fk/not-indexed
  role_id bigint NOT NULL REFERENCES role (id), note text);
CREATE INDEX keeper_roles_2 ON keeper_roles (role_id);
CREATE TABLE item (id INTEGER PRIMARY KEY, keeper_id bigint NOT NULL REFERENCES keeper (id), role_id bigint NOT NULL REFERENCES role (id), quantity bigint NOT NULL);
CREATE INDEX item_1 ON item (keeper_id);
CREATE INDEX item_2 ON item (role_id);
-- Events and things: dates, columns of their own, others refer to them, trees.
CREATE TABLE visit (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id), visited_on text NOT NULL);
CREATE INDEX visit_1 ON visit (station_id);
CREATE INDEX visit_2 ON visit (keeper_id);
CREATE TABLE e (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id), price bigint, amount bigint);
CREATE INDEX e_1 ON e (station_id);
CREATE INDEX e_2 ON e (keeper_id);
CREATE TABLE contract (id INTEGER PRIMARY KEY, station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id));
CREATE INDEX contract_1 ON contract (station_id);
CREATE INDEX contract_2 ON contract (keeper_id);
CREATE TABLE clause (id INTEGER PRIMARY KEY, contract_id bigint NOT NULL REFERENCES contract (id), text text);
CREATE INDEX clause_1 ON clause (contract_id);
CREATE TABLE f (id INTEGER PRIMARY KEY, parent_id bigint REFERENCES f (id), station_id bigint NOT NULL REFERENCES station (id), keeper_id bigint NOT NULL REFERENCES keeper (id));
CREATE INDEX f_0 ON f (parent_id);
CREATE INDEX f_1 ON f (station_id);
CREATE INDEX f_2 ON f (keeper_id);
INSERT INTO station (id) VALUES (1), (2);
INSERT INTO keeper (id) VALUES (1), (2);
INSERT INTO role (id) VALUES (1);
INSERT INTO station_keeper (station_id, keeper_id) VALUES (1, 1), (1, 2);
INSERT INTO assignment (keeper_id, role_id) VALUES (NULL, 1), (NULL, 1), (1, 1);
INSERT INTO membership (keeper_id, role_id) VALUES (1, 1), (2, 1);
