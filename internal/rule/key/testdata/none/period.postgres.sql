-- Rows of one thing, each for a period: what may not overlap can be the key.
CREATE EXTENSION btree_gist;
CREATE TABLE datum_level (station_id integer NOT NULL, valid daterange, level integer, EXCLUDE USING gist (station_id WITH =, valid WITH &&));  -- want: key/none
CREATE TABLE visit (keeper_id integer NOT NULL, during int4range NOT NULL, UNIQUE (keeper_id, during WITHOUT OVERLAPS));  -- want: key/none
INSERT INTO datum_level VALUES (1, '[2026-01-01,2026-07-01)', 5), (1, '[2026-07-01,)', 6), (2, '[2026-01-01,)', 5);
INSERT INTO visit VALUES (1, '[1,5)'), (1, '[5,9)');
-- choose key/none period
-- from postgres 18
