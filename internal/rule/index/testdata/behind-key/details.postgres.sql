-- Other operator classes, collations, methods and carried columns; what is pinned; what a foreign key leans on.
CREATE TABLE station (id bigint PRIMARY KEY, code text NOT NULL UNIQUE);
CREATE INDEX station_pattern ON station (code text_pattern_ops);
CREATE INDEX station_c ON station (code COLLATE "C");
CREATE INDEX station_hash ON station USING hash (code);
CREATE INDEX station_carries ON station (code) INCLUDE (id);
CREATE UNIQUE INDEX station_replica ON station (id);
ALTER TABLE station REPLICA IDENTITY USING INDEX station_replica;

CREATE TABLE gauge (id bigint NOT NULL, serial text NOT NULL);
CREATE UNIQUE INDEX gauge_id ON gauge (id);
CREATE TABLE reading (id bigint PRIMARY KEY, gauge_id bigint REFERENCES gauge (id));
CREATE INDEX ON reading (gauge_id);
ALTER TABLE gauge ADD PRIMARY KEY (id);

CREATE TABLE visit (id bigint PRIMARY KEY, note text);
CREATE INDEX visit_id ON visit (id) WITH (fillfactor = 70);  -- want: index/behind-key
COMMENT ON INDEX visit_id IS 'it''s a comment';
