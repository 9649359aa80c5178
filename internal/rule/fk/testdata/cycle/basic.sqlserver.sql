CREATE TABLE berth (id integer PRIMARY KEY, boat_id integer NOT NULL); -- want: fk/cycle
CREATE TABLE boat (id integer PRIMARY KEY, berth_id integer NOT NULL CONSTRAINT boat_berth REFERENCES berth (id));
ALTER TABLE berth ADD CONSTRAINT berth_boat FOREIGN KEY (boat_id) REFERENCES boat (id);
CREATE INDEX berth_by_boat ON berth (boat_id);
CREATE INDEX boat_by_berth ON boat (berth_id);
-- choose fk/cycle allow-null
