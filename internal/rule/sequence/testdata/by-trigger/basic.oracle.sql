-- The forms in use: with a look whether a number is given, from dual, by assignment; and one that does more.
CREATE SEQUENCE numbers;
CREATE TABLE station (id NUMBER(19) PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL UNIQUE); -- want: sequence/by-trigger
CREATE OR REPLACE TRIGGER station_no BEFORE INSERT ON station FOR EACH ROW
BEGIN
  IF :NEW.id IS NULL THEN
    SELECT numbers.NEXTVAL INTO :NEW.id FROM dual;
  END IF;
END;
/
CREATE SEQUENCE keepers;
CREATE TABLE keeper (id NUMBER(19) PRIMARY KEY, name VARCHAR2(9 CHAR) NOT NULL UNIQUE); -- want: sequence/by-trigger
CREATE OR REPLACE TRIGGER keeper_no BEFORE INSERT ON keeper FOR EACH ROW
BEGIN
  :new.id := keepers.nextval; -- it's always given
END keeper_no;
/
CREATE SEQUENCE visits;
CREATE TABLE visit (id NUMBER(19) PRIMARY KEY, made DATE); -- want: sequence/by-trigger (no fix)
CREATE OR REPLACE TRIGGER visit_no BEFORE INSERT ON visit FOR EACH ROW
BEGIN
  SELECT visits.NEXTVAL INTO :new.id FROM dual;
  :new.made := SYSDATE;
END;
/
