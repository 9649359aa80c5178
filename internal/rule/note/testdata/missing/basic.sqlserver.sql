-- set note/missing severity notice
CREATE TABLE station (id integer NOT NULL PRIMARY KEY);
EXEC sys.sp_addextendedproperty N'MS_Description', N'where a gauge stands', N'SCHEMA', N'dbo', N'TABLE', N'station', NULL, NULL;
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY); -- want: note/missing (no fix)
