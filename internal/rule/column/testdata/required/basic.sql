-- set column/required columns code, name
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL, name varchar(40));
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL); -- want: column/required "lacks name, which" (no fix)
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, name_of varchar(40)); -- want: column/required "lacks code and name, which" (no fix)
