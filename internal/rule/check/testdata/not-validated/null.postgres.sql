-- NOT NULL as a constraint of its own, the rows not looked at.
CREATE TABLE station (station_id integer PRIMARY KEY, name text, town text NOT NULL);
CREATE TABLE tower (PRIMARY KEY (station_id)) INHERITS (station);
CREATE TABLE gauge (gauge_id integer PRIMARY KEY, model text, note text);
INSERT INTO gauge VALUES (1, 'a', NULL), (2, 'b', NULL);
ALTER TABLE gauge ADD CONSTRAINT "model, needed" NOT NULL model NOT VALID;  -- want: check/not-validated "null was forbidden in model without checking existing rows"
COMMENT ON CONSTRAINT "model, needed" ON gauge IS 'since the storm';
ALTER TABLE station ADD CONSTRAINT station_name NOT NULL name NOT VALID;  -- want: check/not-validated
-- from postgres 18
