-- set column/required columns code, name
CREATE TABLE station (id NUMBER(10) NOT NULL PRIMARY KEY, code VARCHAR2(10 CHAR) NOT NULL, name VARCHAR2(40 CHAR));
CREATE TABLE gauge (id NUMBER(10) NOT NULL PRIMARY KEY, code VARCHAR2(10 CHAR) NOT NULL); -- want: column/required "lacks name, which" (no fix)
CREATE TABLE visit (id NUMBER(10) NOT NULL PRIMARY KEY, name_of VARCHAR2(40 CHAR)); -- want: column/required "lacks code and name, which" (no fix)
