-- set note/missing severity notice
CREATE TABLE station (id integer NOT NULL PRIMARY KEY) COMMENT 'where a gauge stands';
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY); -- want: note/missing (no fix)
