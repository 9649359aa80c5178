-- set note/missing severity notice
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
EXEC sys.sp_addextendedproperty 'MS_Description', 'where a gauge stands', 'SCHEMA', 'dbo', 'TABLE', 'station', NULL, NULL;
CREATE TABLE gauge (id NUMBER(10) NOT NULL PRIMARY KEY); -- want: note/missing (no fix)
