CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, a NUMBER(10), b NUMBER(10), c NUMBER(10), d NUMBER(10), e NUMBER(10), f NUMBER(10));
CREATE INDEX station_six ON station (a, b, c, d, e, f); -- want: index/too-wide "station_six has 6 columns" (no fix)
CREATE INDEX station_five ON station (b, c, d, e, f);
