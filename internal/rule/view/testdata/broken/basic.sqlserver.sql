CREATE TABLE station (id int NOT NULL PRIMARY KEY, name nvarchar(40) NOT NULL, height int);
CREATE TABLE gone (id int NOT NULL PRIMARY KEY);
GO
CREATE VIEW gone_ids AS SELECT id FROM dbo.gone; -- want: view/broken "every query of view gone_ids fails" (no fix)
GO
CREATE VIEW station_ids AS SELECT id FROM dbo.station;
GO
CREATE VIEW station_names AS SELECT i.id, s.name FROM dbo.station_ids i JOIN dbo.station s ON s.id = i.id;
GO
DROP TABLE gone;
