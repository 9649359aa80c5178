-- One of everything that the catalog of SQL Server tells, on a server that is simulated.
CREATE SCHEMA tide;
GO
CREATE SCHEMA [odd name];
GO
EXEC sys.sp_addextendedproperty N'MS_Description', N'of the tides', N'SCHEMA', N'tide', NULL, NULL, NULL, NULL;
CREATE TYPE tide.mark FROM nvarchar(12) NOT NULL;
CREATE TYPE dbo.amount FROM decimal(9,2) NULL;
CREATE SEQUENCE tide.numbers AS int START WITH 10 INCREMENT BY 5 MINVALUE 10 MAXVALUE 10000 CYCLE CACHE 20;
CREATE SEQUENCE dbo.plain_numbers AS bigint START WITH 1 NO CACHE;
EXEC sys.sp_addextendedproperty N'MS_Description', N'counts by fives', N'SCHEMA', N'tide', N'SEQUENCE', N'numbers', NULL, NULL;
CREATE PARTITION FUNCTION "laid out by nothing" (varchar(20)) AS RANGE LEFT FOR VALUES ('a, b'', c', 'm');
GO
CREATE PARTITION FUNCTION pf_day (date) AS RANGE RIGHT FOR VALUES ('2025-01-01', '2026-01-01', '2027-01-01');
CREATE PARTITION SCHEME ps_day AS PARTITION pf_day ALL TO ([PRIMARY]);
CREATE PARTITION FUNCTION pf_number (int) AS RANGE LEFT FOR VALUES (100, 200);
CREATE PARTITION SCHEME ps_number AS PARTITION pf_number ALL TO ([PRIMARY]);

CREATE TABLE dbo.station (
  id int IDENTITY(100,10) NOT NULL CONSTRAINT pk_station PRIMARY KEY,
  code tide.mark NOT NULL CONSTRAINT uq_station_code UNIQUE WITH (FILLFACTOR = 80, PAD_INDEX = ON),
  name nvarchar(40) COLLATE Latin1_General_100_CI_AI NOT NULL,
  worth dbo.amount NULL CONSTRAINT df_worth DEFAULT ((1.5)),
  height decimal(8,3) NULL, depth numeric(5,0) NULL, cost money NULL, small_cost smallmoney NULL, share real NULL, level float NULL,
  tall bit NOT NULL CONSTRAINT df_tall DEFAULT ((1)), kind char(1) NOT NULL CONSTRAINT ck_kind CHECK ([kind]='b' OR [kind]='a'), mark nchar(3) NULL,
  opened date NULL, seen datetime2(3) NULL, old datetime NULL, older smalldatetime NULL, zoned datetimeoffset(7) NULL, at_time time(2) NULL,
  photo varbinary(max) NULL, hash binary(16) NULL, few varbinary(20) NULL, note nvarchar(max) NULL, plain varchar(max) NULL, letter ntext NULL,
  guid uniqueidentifier ROWGUIDCOL NOT NULL CONSTRAINT df_guid DEFAULT (newid()), version rowversion NOT NULL, extra xml NULL, seldom int SPARSE NULL,
  twice AS ([id]*(2)) PERSISTED NOT NULL, label AS ([code]+N'-'),
  changed datetimeoffset(0) NOT NULL CONSTRAINT df_changed DEFAULT (sysdatetimeoffset()),
  CONSTRAINT ck_height CHECK ([height]>(0) AND [depth]>(0))
);
EXEC sys.sp_addextendedproperty N'MS_Description', N'where a gauge''s ] mark stands', N'SCHEMA', N'dbo', N'TABLE', N'station', NULL, NULL;
EXEC sys.sp_addextendedproperty N'MS_Description', N'as people say it', N'SCHEMA', N'dbo', N'TABLE', N'station', N'COLUMN', N'name';
EXEC sys.sp_addextendedproperty N'MS_Description', N'one each', N'SCHEMA', N'dbo', N'TABLE', N'station', N'CONSTRAINT', N'uq_station_code';
EXEC sys.sp_addextendedproperty N'MS_Description', N'of two kinds', N'SCHEMA', N'dbo', N'TABLE', N'station', N'CONSTRAINT', N'ck_kind';
CREATE INDEX ix_name ON dbo.station (name DESC, kind) INCLUDE (note, height) WITH (FILLFACTOR = 70, ALLOW_ROW_LOCKS = OFF, DATA_COMPRESSION = ROW);
CREATE UNIQUE INDEX ux_hash ON dbo.station (hash) WHERE [hash] IS NOT NULL WITH (IGNORE_DUP_KEY = ON);
CREATE INDEX ix_off ON dbo.station (opened);
ALTER INDEX ix_off ON dbo.station DISABLE;
CREATE PRIMARY XML INDEX [x [of]] extra] ON dbo.station (extra) WITH (PAD_INDEX = ON, FILLFACTOR = 60);
CREATE XML INDEX [a path] ON dbo.station (extra) USING XML INDEX [x [of]] extra] FOR PATH;
CREATE XML INDEX xml_value ON dbo.station (extra) USING XML INDEX [x [of]] extra] FOR VALUE WITH (FILLFACTOR = 50);
CREATE STATISTICS st_opened ON dbo.station (opened, seen);
EXEC sys.sp_addextendedproperty N'MS_Description', N'by name', N'SCHEMA', N'dbo', N'TABLE', N'station', N'INDEX', N'ix_name';

CREATE TABLE tide.heap (n int NULL, day date NULL, note nvarchar(9) NULL) WITH (DATA_COMPRESSION = PAGE);
CREATE TABLE tide.other (id int NOT NULL CONSTRAINT pk_other PRIMARY KEY NONCLUSTERED, day date NOT NULL, station_id int NULL, second_id int NULL, third_id int NULL, no int NOT NULL CONSTRAINT df_no DEFAULT (NEXT VALUE FOR [tide].[numbers]));
CREATE CLUSTERED INDEX cx_other ON tide.other (day DESC, id);
CREATE TABLE tide.cut (id int NOT NULL, day date NOT NULL, level int NULL, CONSTRAINT pk_cut PRIMARY KEY (id, day)) ON ps_day(day);
CREATE INDEX ix_cut ON tide.cut (level) ON ps_day(day);
CREATE INDEX ix_cut_whole ON tide.cut (level, id) ON [PRIMARY];
CREATE TABLE tide.cut_heap (id int NOT NULL, level int NULL) ON ps_number(id);
CREATE TABLE tide.wide (id bigint IDENTITY(1,1) NOT FOR REPLICATION NOT NULL CONSTRAINT pk_wide PRIMARY KEY, a int NULL, b int NULL);
CREATE NONCLUSTERED COLUMNSTORE INDEX nc_wide ON tide.wide (a, b);
CREATE TABLE tide.place (id int NOT NULL CONSTRAINT pk_place PRIMARY KEY, at geometry NULL, lies geography NULL, phone varchar(20) MASKED WITH (FUNCTION = 'partial(1,"it''s",2)') NULL);
CREATE SPATIAL INDEX sx_at ON tide.place (at) USING GEOMETRY_GRID WITH (BOUNDING_BOX = (-12.5, 0, 1000, 99.25), GRIDS = (LEVEL_1 = LOW, LEVEL_2 = MEDIUM, LEVEL_3 = HIGH, LEVEL_4 = MEDIUM), CELLS_PER_OBJECT = 64);
CREATE SPATIAL INDEX sx_auto ON tide.place (at) USING GEOMETRY_AUTO_GRID WITH (BOUNDING_BOX = (0, 0, 10, 10));
CREATE SPATIAL INDEX sx_lies ON tide.place (lies);
CREATE TABLE tide.columns (a int NULL, b nvarchar(20) NULL);
CREATE CLUSTERED COLUMNSTORE INDEX cc_columns ON tide.columns;

ALTER TABLE tide.other ADD CONSTRAINT fk_station FOREIGN KEY (station_id) REFERENCES dbo.station (id) ON DELETE SET NULL ON UPDATE CASCADE;
ALTER TABLE tide.other WITH NOCHECK ADD CONSTRAINT fk_second FOREIGN KEY (second_id) REFERENCES dbo.station (id);
ALTER TABLE tide.other ADD CONSTRAINT fk_third FOREIGN KEY (third_id) REFERENCES tide.other (id);
ALTER TABLE tide.other NOCHECK CONSTRAINT fk_third;
ALTER TABLE tide.heap WITH NOCHECK ADD CONSTRAINT ck_later CHECK ([n]<>(7));
ALTER TABLE tide.heap ADD CONSTRAINT ck_off CHECK ([n]<(1000));
ALTER TABLE tide.heap NOCHECK CONSTRAINT ck_off;
EXEC sys.sp_addextendedproperty N'MS_Description', N'where it stands', N'SCHEMA', N'tide', N'TABLE', N'other', N'CONSTRAINT', N'fk_station';

CREATE TABLE [odd name].[a ]] table; -- ' "x"] ([key ]] 'one'] int NOT NULL, [select] nvarchar(9) NULL, [Größe 😀] int NULL CONSTRAINT [df ]] odd] DEFAULT ((0)), CONSTRAINT [pk ]] odd] PRIMARY KEY ([key ]] 'one'] DESC));
CREATE INDEX [ix ]] GO odd] ON [odd name].[a ]] table; -- ' "x"] ([Größe 😀]) WHERE [select] IS NOT NULL;
EXEC sys.sp_addextendedproperty N'MS_Description', N'it''s
two lines; GO', N'SCHEMA', N'odd name', N'TABLE', N'a ] table; -- '' "x"', N'COLUMN', N'Größe 😀';
CREATE SYNONYM dbo.place FOR [dbo].[station];
GO
-- What it says, with a comment before it.
CREATE VIEW dbo.list WITH SCHEMABINDING AS SELECT s.id, s.code FROM dbo.station s WHERE s.tall = 1
GO
CREATE VIEW tide.others (n, d) AS SELECT o.id, o.day FROM tide.other o; -- and one behind it
GO
CREATE PROCEDURE dbo.count_them AS BEGIN SELECT count(*) AS n FROM dbo.station; SELECT N'it''s; GO' AS x; END
GO
CREATE FUNCTION tide.doubled (@n int) RETURNS int AS BEGIN RETURN @n * 2; END
GO
CREATE TRIGGER dbo.station_touched ON dbo.station AFTER INSERT, UPDATE AS
BEGIN
  SET NOCOUNT ON;
  -- GO is not the end of it
  UPDATE s SET changed = sysdatetimeoffset() FROM dbo.station s JOIN inserted i ON i.id = s.id;
END
GO
CREATE TRIGGER dbo.station_kept ON dbo.station INSTEAD OF DELETE AS PRINT N'no'
GO
CREATE TRIGGER tide.other_first ON tide.other AFTER DELETE AS SELECT 1
GO
DISABLE TRIGGER dbo.station_kept ON dbo.station;
EXEC sys.sp_settriggerorder N'tide.other_first', N'First', N'DELETE';
EXEC sys.sp_addextendedproperty N'MS_Description', N'touches', N'SCHEMA', N'dbo', N'TABLE', N'station', N'TRIGGER', N'station_touched';
EXEC sys.sp_addextendedproperty N'MS_Description', N'a list', N'SCHEMA', N'dbo', N'VIEW', N'list', NULL, NULL;
