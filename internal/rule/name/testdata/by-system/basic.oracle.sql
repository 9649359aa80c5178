-- set name/by-system unique uq_{table}_{columns}
-- set name/by-system primary-key pk_{table}
-- set name/by-system foreign-key fk_{table}_{target}
CREATE TABLE station (
  id NUMBER(10) CONSTRAINT pk_station PRIMARY KEY,
  code VARCHAR2(9 CHAR) NOT NULL UNIQUE -- want: name/by-system "uq_station_code"
);
CREATE TABLE gauge (
  id NUMBER(10) PRIMARY KEY,                       -- want: name/by-system "pk_gauge"
  station_id NUMBER(10) REFERENCES station (id)    -- want: name/by-system "fk_gauge_station"
);
CREATE INDEX gauge_by_station ON gauge (station_id);
INSERT INTO station VALUES (1, 'a');
