CREATE TABLE station (id integer NOT NULL PRIMARY KEY, coast_mark integer);
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, coast_mark integer);
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY);
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY);
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY);
CREATE TABLE storm (id integer NOT NULL PRIMARY KEY);
CREATE TABLE boats (id integer NOT NULL PRIMARY KEY); -- want: name/two-forms "plural" (no fix)
CREATE TABLE gauge_model (
  id integer NOT NULL PRIMARY KEY,
  coastmark integer -- want: name/two-forms "coast_mark in" (no fix)
);
