CREATE TABLE buoy (id NUMBER(10) NOT NULL, coast VARCHAR2(5 CHAR) NOT NULL, CONSTRAINT buoy_pk PRIMARY KEY (id, coast)) -- want: partition/no-default
  PARTITION BY LIST (coast) (PARTITION north VALUES ('north'), PARTITION south VALUES ('south', 'west'));
CREATE TABLE float_ (id NUMBER(10) NOT NULL, coast VARCHAR2(5 CHAR) NOT NULL, CONSTRAINT float_pk PRIMARY KEY (id, coast))
  PARTITION BY LIST (coast) (PARTITION north VALUES ('north'), PARTITION others VALUES (DEFAULT));
INSERT INTO buoy VALUES (1, 'north'); INSERT INTO float_ VALUES (1, 'east');
