CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE gauge (id NUMBER(10) NOT NULL PRIMARY KEY, station_id NUMBER(10) NOT NULL, CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX g1 ON gauge (station_id);
CREATE TABLE mark (id NUMBER(10) NOT NULL PRIMARY KEY, station_id NUMBER(10) NOT NULL, CONSTRAINT mark_station FOREIGN KEY (station_id) REFERENCES station (id));
CREATE INDEX m1 ON mark (station_id);
CREATE TABLE leftover (id NUMBER(10) NOT NULL PRIMARY KEY, what VARCHAR2(40 CHAR)); -- want: fk/island (no fix)
