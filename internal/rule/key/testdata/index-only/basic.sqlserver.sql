CREATE TABLE station (id bigint PRIMARY KEY, code nvarchar(8) NOT NULL, name nvarchar(40) NOT NULL, mark nvarchar(9));
CREATE UNIQUE INDEX station_code ON station (code) WITH (FILLFACTOR = 80); -- want: key/index-only
CREATE UNIQUE INDEX station_mark ON station (mark) WHERE [mark] IS NOT NULL;
CREATE TABLE gauge (id bigint PRIMARY KEY, station_code nvarchar(8) CONSTRAINT gauge_station REFERENCES station (code));
CREATE INDEX gauge_by_station ON gauge (station_code);
INSERT INTO station VALUES (1, N'a', N'A', NULL), (2, N'b', N'B', N'x');
INSERT INTO gauge VALUES (1, N'a');
