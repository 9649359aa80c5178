-- set name/too-long bytes 20
CREATE TABLE station (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  height_of_the_gauge_above_datum NUMBER(10), -- want: name/too-long (no fix)
  depth NUMBER(10)
);
