CREATE TABLE station (id NUMBER(10) PRIMARY KEY);
CREATE TABLE gauge (id NUMBER(10) PRIMARY KEY, station_id NUMBER(10), other_id NUMBER(10));
INSERT INTO station VALUES (1); INSERT INTO station VALUES (2);
INSERT INTO gauge VALUES (1, 1, 1); INSERT INTO gauge VALUES (2, 2, NULL);
ALTER TABLE gauge ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ENABLE NOVALIDATE; -- want: fk/not-validated
-- Switched off, and on again without a look.
ALTER TABLE gauge ADD CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id); -- want: fk/not-validated
ALTER TABLE gauge DISABLE CONSTRAINT gauge_other;
ALTER TABLE gauge ENABLE NOVALIDATE CONSTRAINT gauge_other;
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
