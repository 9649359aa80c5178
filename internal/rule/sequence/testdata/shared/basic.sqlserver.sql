CREATE SEQUENCE numbers AS bigint START WITH 1;
CREATE TABLE station (id bigint NOT NULL CONSTRAINT df_station DEFAULT (NEXT VALUE FOR [dbo].[numbers]) PRIMARY KEY); -- want: sequence/shared "numbers station and visit together"
CREATE TABLE visit (id bigint NOT NULL CONSTRAINT df_visit DEFAULT (NEXT VALUE FOR [dbo].[numbers]) PRIMARY KEY);
CREATE TABLE keeper (id bigint IDENTITY PRIMARY KEY);
INSERT INTO visit DEFAULT VALUES;
INSERT INTO station DEFAULT VALUES;
INSERT INTO visit DEFAULT VALUES;
