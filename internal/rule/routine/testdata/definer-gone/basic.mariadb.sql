-- not mysql: the stand-in has no functions
-- Definers that nobody is any more, and one that is there.
CREATE TABLE station (id int NOT NULL PRIMARY KEY, name varchar(40) NOT NULL);
CREATE DEFINER = 'nobody'@'nowhere' VIEW station_names AS SELECT name FROM station; -- want: routine/definer-gone "every query of it fails" (no fix)
CREATE DEFINER = 'nobody'@'nowhere' TRIGGER station_name BEFORE INSERT ON station FOR EACH ROW SET NEW.name = trim(NEW.name); -- want: routine/definer-gone "every statement that fires it fails" (no fix)
CREATE DEFINER = 'nobody'@'%' FUNCTION station_count() RETURNS int RETURN (SELECT count(*) FROM station); -- want: routine/definer-gone "every call of it fails" (no fix)
CREATE DEFINER = 'nobody'@'nowhere' EVENT station_night ON SCHEDULE EVERY 1 DAY DO DELETE FROM station WHERE id < 0; -- want: routine/definer-gone "does nothing but fail" (no fix)
CREATE DEFINER = 'nobody'@'nowhere' SQL SECURITY INVOKER VIEW station_heights AS SELECT id FROM station;
CREATE DEFINER = 'nobody'@'nowhere' FUNCTION station_one() RETURNS int SQL SECURITY INVOKER RETURN 1;
CREATE VIEW station_ids AS SELECT id FROM station;
CREATE TRIGGER station_keep BEFORE UPDATE ON station FOR EACH ROW SET NEW.id = OLD.id;
