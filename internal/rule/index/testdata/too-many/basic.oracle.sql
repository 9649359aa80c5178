CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, a NUMBER(10), b NUMBER(10), c NUMBER(10), d NUMBER(10), e NUMBER(10), f NUMBER(10), g NUMBER(10), h NUMBER(10), i NUMBER(10), j NUMBER(10), k NUMBER(10)); -- want: index/too-many "has 12 indexes" (no fix)
CREATE INDEX station_by_a ON station (a);
CREATE INDEX station_by_b ON station (b);
CREATE INDEX station_by_c ON station (c);
CREATE INDEX station_by_d ON station (d);
CREATE INDEX station_by_e ON station (e);
CREATE INDEX station_by_f ON station (f);
CREATE INDEX station_by_g ON station (g);
CREATE INDEX station_by_h ON station (h);
CREATE INDEX station_by_i ON station (i);
CREATE INDEX station_by_j ON station (j);
CREATE INDEX station_by_k ON station (k);
CREATE TABLE few (id NUMBER(10) NOT NULL PRIMARY KEY, a NUMBER(10));
CREATE INDEX few_a ON few (a);
