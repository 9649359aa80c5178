CREATE TABLE station (id uniqueidentifier NOT NULL CONSTRAINT df_station DEFAULT (newid()) PRIMARY KEY, code varchar(9) NOT NULL); -- want: key/random-clustered (no fix)
CREATE TABLE gauge (id uniqueidentifier NOT NULL CONSTRAINT df_gauge DEFAULT (newsequentialid()) PRIMARY KEY, code varchar(9) NOT NULL);
CREATE TABLE mark (id uniqueidentifier NOT NULL PRIMARY KEY NONCLUSTERED, code varchar(9) NOT NULL, no integer NOT NULL);
CREATE CLUSTERED INDEX mark_no ON mark (no);
