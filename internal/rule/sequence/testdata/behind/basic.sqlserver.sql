-- probe
CREATE SEQUENCE numbers AS bigint START WITH 1;
CREATE TABLE station (id bigint NOT NULL CONSTRAINT df_station DEFAULT (NEXT VALUE FOR [dbo].[numbers]) PRIMARY KEY, name nvarchar(9)); -- want: sequence/behind
INSERT INTO station VALUES (1, N'a'), (2, N'b'), (3, N'c');
CREATE TABLE keeper (id integer IDENTITY CONSTRAINT pk_keeper PRIMARY KEY, name nvarchar(9)); -- want: sequence/behind
SET IDENTITY_INSERT keeper ON;
INSERT INTO keeper (id, name) VALUES (7, N'a');
SET IDENTITY_INSERT keeper OFF;
DBCC CHECKIDENT (N'dbo.keeper', RESEED, 3) WITH NO_INFOMSGS;
CREATE TABLE visit (id integer IDENTITY PRIMARY KEY, n integer);
INSERT INTO visit (n) VALUES (1), (2);
