-- By assignment, where it is null; a column that takes a null; one that does more; one on updates.
CREATE TABLE station (id NUMBER(10) PRIMARY KEY, created_at TIMESTAMP(6) WITH TIME ZONE NOT NULL); -- want: column/stamp-by-trigger
CREATE OR REPLACE TRIGGER station_stamp BEFORE INSERT ON station FOR EACH ROW
BEGIN
  IF :NEW.created_at IS NULL THEN
    :NEW.created_at := SYSTIMESTAMP; -- it's now
  END IF;
END;
/
CREATE TABLE keeper (id NUMBER(10) PRIMARY KEY, entered DATE NOT NULL); -- want: column/stamp-by-trigger
CREATE OR REPLACE TRIGGER keeper_stamp BEFORE INSERT ON keeper FOR EACH ROW WHEN (NEW.entered IS NULL)
BEGIN
  :new.entered := SYSDATE;
END keeper_stamp;
/
CREATE TABLE visit (id NUMBER(10) PRIMARY KEY, made DATE); -- want: column/stamp-by-trigger (no fix)
CREATE OR REPLACE TRIGGER visit_stamp BEFORE INSERT ON visit FOR EACH ROW
BEGIN
  :new.made := NVL(:new.made, SYSDATE);
END;
/
CREATE TABLE part (id NUMBER(10) PRIMARY KEY, made DATE NOT NULL, code VARCHAR2(9 CHAR)); -- want: column/stamp-by-trigger (no fix)
CREATE OR REPLACE TRIGGER part_stamp BEFORE INSERT ON part FOR EACH ROW
BEGIN
  :new.made := SYSDATE;
  :new.code := UPPER(:new.code);
END;
/
CREATE TABLE gauge (id NUMBER(10) PRIMARY KEY, changed DATE);
CREATE OR REPLACE TRIGGER gauge_stamp BEFORE INSERT OR UPDATE ON gauge FOR EACH ROW
BEGIN
  :new.changed := SYSDATE;
END;
/
