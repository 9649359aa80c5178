CREATE TABLE a (id integer PRIMARY KEY, station_mark nvarchar(12) NOT NULL, mm integer);
CREATE TABLE b (id integer PRIMARY KEY, station_mark nvarchar(12) NOT NULL, mm integer);
CREATE TABLE c (id integer PRIMARY KEY, station_mark nvarchar(12) NOT NULL, mm integer);
CREATE TABLE d (
  id bigint PRIMARY KEY,
  station_mark nvarchar(8) NOT NULL CONSTRAINT df_mark DEFAULT (N'none') CONSTRAINT ck_mark CHECK ([station_mark]<>N''), -- want: column/type-varies
  mm nvarchar(9)                                                                                                       -- want: column/type-varies (no fix)
);
CREATE UNIQUE INDEX d_mark ON d (station_mark DESC) INCLUDE (mm) WITH (FILLFACTOR = 90);
INSERT INTO d VALUES (1, N'x', N'7');
