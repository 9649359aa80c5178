CREATE SEQUENCE leftover AS int START WITH 5 INCREMENT BY 2 NO CACHE; -- want-database: sequence/unused
CREATE SEQUENCE taken AS bigint START WITH 1;
CREATE TABLE station (id bigint NOT NULL CONSTRAINT df_station DEFAULT (NEXT VALUE FOR [dbo].[taken]) PRIMARY KEY);
