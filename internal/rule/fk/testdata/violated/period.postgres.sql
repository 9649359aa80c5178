-- Rows whose period goes beyond that of what they refer to, or is empty.
-- probe
CREATE EXTENSION btree_gist;
CREATE TABLE datum_level (station_id integer, valid daterange, PRIMARY KEY (station_id, valid WITHOUT OVERLAPS));
CREATE TABLE levelling (levelling_id integer PRIMARY KEY, station_id integer NOT NULL, valid daterange NOT NULL);
CREATE INDEX ON levelling USING gist (station_id, valid);
INSERT INTO datum_level SELECT g, daterange('2026-01-01', '2026-07-01') FROM generate_series(1, 20) g;
INSERT INTO datum_level SELECT g, daterange('2026-07-01', '2027-01-01') FROM generate_series(1, 20) g;
INSERT INTO levelling SELECT g, 1 + g % 20, daterange(DATE '2026-05-01' + g, DATE '2026-08-01' + g) FROM generate_series(1, 40) g;
INSERT INTO levelling VALUES (41, 1, '[2026-11-01,2027-02-01)'), (42, 99, '[2026-11-01,2026-12-01)'), (43, 1, 'empty');
ALTER TABLE levelling ADD CONSTRAINT levelling_datum FOREIGN KEY (station_id, PERIOD valid) REFERENCES datum_level (station_id, PERIOD valid) NOT VALID;  -- want: fk/violated "3 of 43 rows have no parent in datum_level for the whole of valid" (no fix)
-- from postgres 18
