-- set note/missing severity notice
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
COMMENT ON TABLE station IS 'where a gauge stands';
CREATE TABLE gauge (id NUMBER(10) NOT NULL PRIMARY KEY); -- want: note/missing (no fix)
