CREATE TABLE level (height REAL PRIMARY KEY NOT NULL, note TEXT); -- want: key/unsuitable-type "holds height .REAL." (no fix)
CREATE TABLE station (code TEXT NOT NULL PRIMARY KEY, height REAL);
CREATE INDEX station_height ON station (height);
