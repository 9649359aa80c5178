-- set name/pattern index ix_{table}_{columns}
-- set name/pattern foreign-key fk_{table}_{target}
-- set name/pattern primary-key pk_{table}
CREATE TABLE station (id NUMBER(10) CONSTRAINT pk_station PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL);
CREATE TABLE gauge (
  id NUMBER(10) CONSTRAINT pk_g PRIMARY KEY,  -- want: name/pattern "pk_gauge"
  station_id NUMBER(10) NOT NULL, serial NUMBER(10),
  CONSTRAINT gauge_at FOREIGN KEY (station_id) REFERENCES station (id) -- want: name/pattern "fk_gauge_station"
);
CREATE INDEX gauge_station ON gauge (station_id); -- want: name/pattern "ix_gauge_station_id"
CREATE INDEX ix_gauge_serial ON gauge (serial);
