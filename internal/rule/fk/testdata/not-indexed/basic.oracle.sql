-- A foreign key without an index, among those that have one in some form.
CREATE TABLE station (id NUMBER(10) PRIMARY KEY, code VARCHAR2(8 CHAR) NOT NULL UNIQUE, part NUMBER(10) NOT NULL, UNIQUE (id, part));
CREATE TABLE keeper (id NUMBER(10) PRIMARY KEY);

CREATE TABLE visit (
  id NUMBER(10) PRIMARY KEY,
  station_id NUMBER(10) NOT NULL REFERENCES station (id),  -- want: fk/not-indexed "deleting from station.*locks all of visit"
  keeper_id NUMBER(10) REFERENCES keeper (id),
  cost NUMBER(10), minutes NUMBER(10)
);
CREATE INDEX visit_keeper ON visit (keeper_id, id);

-- Nothing to say: the primary key begins with it, a unique key does, a wider index in another order.
CREATE TABLE link (station_id NUMBER(10) NOT NULL REFERENCES station (id), keeper_id NUMBER(10) NOT NULL REFERENCES keeper (id), PRIMARY KEY (station_id, keeper_id));
CREATE INDEX link_keeper ON link (keeper_id);
CREATE TABLE detail (
  id NUMBER(10) PRIMARY KEY,
  station_id NUMBER(10) UNIQUE REFERENCES station (id),
  part_id NUMBER(10), part_no NUMBER(10) NOT NULL,
  FOREIGN KEY (part_id, part_no) REFERENCES station (id, part)
);
CREATE INDEX detail_part ON detail (part_no, part_id, id);

-- The key itself refers: one-to-one.
CREATE TABLE station_extra (id NUMBER(10) PRIMARY KEY REFERENCES station (id), note VARCHAR2(40 CHAR));

-- The column is in an index, but does not lead it; and a combined key of which only a part leads.
CREATE TABLE stock (
  id NUMBER(10) PRIMARY KEY,
  store NUMBER(10) NOT NULL,
  station_id NUMBER(10) REFERENCES station (id),            -- want: fk/not-indexed
  part_id NUMBER(10), part_no NUMBER(10),
  CONSTRAINT stock_part FOREIGN KEY (part_id, part_no) REFERENCES station (id, part)  -- want: fk/not-indexed, fk/partly-null
);
CREATE INDEX stock_store_station ON stock (store, station_id);

INSERT INTO station VALUES (1, 'A', 1); INSERT INTO station VALUES (2, 'B', 1);
INSERT INTO keeper VALUES (1);
INSERT INTO visit VALUES (1, 1, 1, 5, 6); INSERT INTO visit VALUES (2, 2, NULL, NULL, NULL);
INSERT INTO stock VALUES (1, 1, 1, 1, 1); INSERT INTO stock VALUES (2, 1, NULL, NULL, NULL);
