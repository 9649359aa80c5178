CREATE TABLE station (id integer PRIMARY KEY);
CREATE TABLE gauge (id integer PRIMARY KEY, station_id integer, other_id integer);
INSERT INTO station VALUES (1), (2);
INSERT INTO gauge VALUES (1, 1, 1), (2, 2, NULL);
ALTER TABLE gauge WITH NOCHECK ADD CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id); -- want: fk/not-validated
-- Switched off and on again: it is not trusted either.
ALTER TABLE gauge ADD CONSTRAINT gauge_other FOREIGN KEY (other_id) REFERENCES station (id); -- want: fk/not-validated
ALTER TABLE gauge NOCHECK CONSTRAINT gauge_other;
ALTER TABLE gauge CHECK CONSTRAINT gauge_other;
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_other ON gauge (other_id);
