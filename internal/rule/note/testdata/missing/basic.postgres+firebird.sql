-- set note/missing severity notice
CREATE TABLE station (id integer PRIMARY KEY);
COMMENT ON TABLE station IS 'where a gauge stands';
CREATE TABLE gauge (id integer PRIMARY KEY); -- want: note/missing (no fix)
