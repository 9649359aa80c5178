-- want nothing: the house has settled on no style
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE keeper (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE station_keeper (
  station_id NUMBER(10) NOT NULL, keeper_id NUMBER(10) NOT NULL, PRIMARY KEY (station_id, keeper_id),
  CONSTRAINT sk_s FOREIGN KEY (station_id) REFERENCES station (id), CONSTRAINT sk_k FOREIGN KEY (keeper_id) REFERENCES keeper (id)
);
CREATE INDEX sk_k_idx ON station_keeper (keeper_id);
