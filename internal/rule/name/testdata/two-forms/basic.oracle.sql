CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, coast_mark NUMBER(10));
CREATE TABLE gauge (id NUMBER(10) NOT NULL PRIMARY KEY, coast_mark NUMBER(10));
CREATE TABLE keeper (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE reading (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE visit (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE storm (id NUMBER(10) NOT NULL PRIMARY KEY);
CREATE TABLE boats (id NUMBER(10) NOT NULL PRIMARY KEY); -- want: name/two-forms "plural" (no fix)
CREATE TABLE gauge_model (
  id NUMBER(10) NOT NULL PRIMARY KEY,
  coastmark NUMBER(10) -- want: name/two-forms "coast_mark in" (no fix)
);
