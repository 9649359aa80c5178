CREATE SEQUENCE numbers AS bigint START WITH 1 MINVALUE 1 MAXVALUE 99 CYCLE;
CREATE TABLE station (id bigint NOT NULL CONSTRAINT df_station DEFAULT (NEXT VALUE FOR [dbo].[numbers]) PRIMARY KEY); -- want: sequence/cycles
