-- not mysql: the stand-in forgets of which database a trigger is
-- By assignment, where it is null, and beside something else.
CREATE TABLE station (id int NOT NULL PRIMARY KEY, created_at datetime(3) NULL); -- want: column/stamp-by-trigger (no fix)
CREATE TRIGGER station_stamp BEFORE INSERT ON station FOR EACH ROW SET NEW.created_at = NOW(3);
CREATE TABLE keeper (id int NOT NULL PRIMARY KEY, entered datetime NULL, name varchar(20)); -- want: column/stamp-by-trigger (no fix)
CREATE TRIGGER keeper_stamp BEFORE INSERT ON keeper FOR EACH ROW SET NEW.entered = IFNULL(NEW.entered, CURRENT_TIMESTAMP), NEW.name = TRIM(NEW.name);
CREATE TABLE visit (id int NOT NULL PRIMARY KEY, changed_at datetime NULL);
CREATE TRIGGER visit_stamp BEFORE UPDATE ON visit FOR EACH ROW SET NEW.changed_at = NOW();
