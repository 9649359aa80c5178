CREATE TABLE berth (id NUMBER(10) PRIMARY KEY, boat_id NUMBER(10) NOT NULL); -- want: fk/cycle
CREATE TABLE boat (id NUMBER(10) PRIMARY KEY, berth_id NUMBER(10) NOT NULL CONSTRAINT boat_berth REFERENCES berth (id));
ALTER TABLE berth ADD CONSTRAINT berth_boat FOREIGN KEY (boat_id) REFERENCES boat (id);
CREATE INDEX berth_by_boat ON berth (boat_id);
CREATE INDEX boat_by_berth ON boat (berth_id);
-- choose fk/cycle allow-null
