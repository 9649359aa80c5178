-- By assignment, where it is null, and beside something else.
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, created_at timestamp); -- want: column/stamp-by-trigger (no fix)
CREATE TABLE keeper (id integer NOT NULL PRIMARY KEY, entered timestamp NOT NULL, name varchar(20)); -- want: column/stamp-by-trigger (no fix)
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, changed_at timestamp);
SET TERM ^ ;
CREATE TRIGGER station_stamp FOR station BEFORE INSERT AS BEGIN NEW.created_at = CURRENT_TIMESTAMP; END^
CREATE TRIGGER keeper_stamp FOR keeper BEFORE INSERT AS BEGIN IF (NEW.entered IS NULL) THEN NEW.entered = CURRENT_TIMESTAMP; NEW.name = TRIM(NEW.name); END^
CREATE TRIGGER visit_stamp FOR visit BEFORE UPDATE AS BEGIN NEW.changed_at = CURRENT_TIMESTAMP; END^
SET TERM ; ^
