-- Something leans on the column: the tool refuses and says why.
CREATE TABLE station (id bigint PRIMARY KEY);
CREATE TABLE gauge (id bigint PRIMARY KEY, station_id integer NOT NULL REFERENCES station (id));  -- want: fk/type-differs (no fix)
CREATE INDEX ON gauge (station_id);
CREATE VIEW gauge_list AS SELECT id, station_id FROM gauge;
CREATE TABLE doubled (id bigint PRIMARY KEY, station_id integer REFERENCES station (id), twice integer GENERATED ALWAYS AS (station_id * 2) STORED);  -- want: fk/type-differs (no fix)
CREATE INDEX ON doubled (station_id);

-- Two targets of different types.
CREATE TABLE buoy (id integer PRIMARY KEY);
CREATE TABLE either (id bigint PRIMARY KEY, at integer REFERENCES station (id) REFERENCES buoy (id));  -- want: fk/type-differs (no fix), fk/two-targets (no fix)
CREATE INDEX ON either (at);

-- The partition key.
CREATE TABLE cut (station_id integer NOT NULL REFERENCES station (id), PRIMARY KEY (station_id)) PARTITION BY LIST (station_id);  -- want: fk/type-differs (no fix)
CREATE TABLE cut_1 PARTITION OF cut FOR VALUES IN (1);

-- A moment with and without zone.
CREATE TABLE tide (at timestamptz PRIMARY KEY);
CREATE TABLE alarm (id bigint PRIMARY KEY, at timestamp REFERENCES tide (at));  -- want: fk/type-differs (no fix)
CREATE INDEX ON alarm (at);
