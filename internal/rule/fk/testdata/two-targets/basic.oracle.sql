-- A column that refers to two tables; a part that refers to its whole as well;
-- a table that is a part of two by its own key.
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE boat (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE buoy (id NUMBER(10) NOT NULL PRIMARY KEY, CONSTRAINT buoy_station FOREIGN KEY (id) REFERENCES station (id));
CREATE TABLE visit (
  id NUMBER(10) NOT NULL PRIMARY KEY, place_id NUMBER(10) NOT NULL, buoy_id NUMBER(10), minutes NUMBER(10), cost NUMBER(10),
  CONSTRAINT visit_station FOREIGN KEY (place_id) REFERENCES station (id),
  CONSTRAINT visit_to_boat FOREIGN KEY (place_id) REFERENCES boat (id), -- want: fk/two-targets "place_id refers to (station and to boat|boat and to station)" (no fix)
  CONSTRAINT visit_buoy FOREIGN KEY (buoy_id) REFERENCES buoy (id),
  CONSTRAINT visit_buoy_station FOREIGN KEY (buoy_id) REFERENCES station (id)
);
CREATE INDEX visit_place ON visit (place_id);
CREATE INDEX visit_buoys ON visit (buoy_id);
CREATE TABLE both_of (id NUMBER(10) NOT NULL PRIMARY KEY, CONSTRAINT both_station FOREIGN KEY (id) REFERENCES station (id), CONSTRAINT both_boat FOREIGN KEY (id) REFERENCES boat (id));
