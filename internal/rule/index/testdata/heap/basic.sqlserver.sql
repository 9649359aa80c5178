CREATE TABLE station (id integer NOT NULL CONSTRAINT pk_station PRIMARY KEY NONCLUSTERED, code varchar(8) NOT NULL CONSTRAINT uq_station UNIQUE); -- want: index/heap
CREATE TABLE gauge (id integer PRIMARY KEY, station_id integer CONSTRAINT gauge_station REFERENCES station (id), other varchar(8) CONSTRAINT gauge_other REFERENCES station (code));
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other);
-- Kept in another order than that of the key; and few rows.
CREATE TABLE reading (id integer PRIMARY KEY NONCLUSTERED, taken date NOT NULL);
CREATE CLUSTERED INDEX reading_taken ON reading (taken);
CREATE TABLE kind (id integer PRIMARY KEY NONCLUSTERED);
INSERT INTO kind VALUES (1), (2);
-- choose index/heap cluster
