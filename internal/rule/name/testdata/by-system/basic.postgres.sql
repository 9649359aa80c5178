-- set name/by-system unique uq_{table}_{columns}
-- set name/by-system primary-key pk_{table}
CREATE TABLE station (
  id integer CONSTRAINT pk_station PRIMARY KEY,
  code text NOT NULL UNIQUE -- want: name/by-system "uq_station_code"
);
INSERT INTO station VALUES (1, 'a');
