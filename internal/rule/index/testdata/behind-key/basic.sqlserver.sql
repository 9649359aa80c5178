CREATE TABLE station (id integer PRIMARY KEY, code varchar(8) NOT NULL, region integer NOT NULL, name varchar(40) NOT NULL, CONSTRAINT station_code UNIQUE (region, code));
CREATE INDEX station_id_again ON station (id);                    -- want: index/behind-key "primary key"
CREATE UNIQUE INDEX station_code_again ON station (region, code); -- want: index/behind-key "unique key"

-- Nothing to say: another order, another direction, a part of the rows, more columns.
CREATE INDEX station_code_turned ON station (code, region);
CREATE INDEX station_code_mixed ON station (region, code DESC);
CREATE INDEX station_part ON station (region, code) WHERE [region]=(1);
CREATE INDEX station_more ON station (region, code, name);
INSERT INTO station VALUES (1, 'A', 1, 'Ansholm');
