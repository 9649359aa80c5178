-- A foreign key without an index, among those that have one in some form.
CREATE TABLE station (id integer PRIMARY KEY, code varchar(8) NOT NULL UNIQUE, part integer NOT NULL, UNIQUE (id, part));
CREATE TABLE keeper (id integer PRIMARY KEY);

CREATE TABLE visit (
  id integer PRIMARY KEY,
  station_id integer NOT NULL REFERENCES station (id),  -- want: fk/not-indexed "deleting from station.*scans all of visit"
  keeper_id integer REFERENCES keeper (id),
  cost integer, minutes integer
);
CREATE INDEX visit_keeper ON visit (keeper_id, id);

-- Nothing to say: the primary key begins with it, a unique key does, a wider index in another order.
CREATE TABLE link (station_id integer NOT NULL REFERENCES station (id), keeper_id integer NOT NULL REFERENCES keeper (id), PRIMARY KEY (station_id, keeper_id));
CREATE INDEX link_keeper ON link (keeper_id);
CREATE TABLE detail (
  id integer PRIMARY KEY,
  station_id integer UNIQUE REFERENCES station (id),
  part_id integer, part_no integer NOT NULL,
  FOREIGN KEY (part_id, part_no) REFERENCES station (id, part)
);
CREATE INDEX detail_part ON detail (part_no, part_id, id);

-- The key itself refers: one-to-one.
CREATE TABLE station_extra (id integer PRIMARY KEY REFERENCES station (id), note varchar(40));

-- The column is in an index, but does not lead it; and a combined key of which only a part leads.
CREATE TABLE stock (
  id integer PRIMARY KEY,
  store integer NOT NULL,
  station_id integer REFERENCES station (id),            -- want: fk/not-indexed
  part_id integer, part_no integer,
  CONSTRAINT stock_part FOREIGN KEY (part_id, part_no) REFERENCES station (id, part)  -- want: fk/not-indexed, fk/partly-null
);
CREATE INDEX stock_store_station ON stock (store, station_id);

INSERT INTO station VALUES (1, 'A', 1), (2, 'B', 1);
INSERT INTO keeper VALUES (1);
INSERT INTO visit VALUES (1, 1, 1, 5, 6), (2, 2, NULL, NULL, NULL);
INSERT INTO stock VALUES (1, 1, 1, 1, 1), (2, 1, NULL, NULL, NULL);
