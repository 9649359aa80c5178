-- Programs that write tables in an order which a foreign key would refuse: the parts before the whole, the whole before its
-- parts, and triggers that bring or take along what nobody declared. Their references must stay as they are; others need not.
-- as : EXECUTE PROCEDURE bring_in(1000); EXECUTE PROCEDURE take_out(1000); EXECUTE PROCEDURE renumber(5, 2005)
-- as : INSERT INTO rope (id, reel_id) VALUES (900, 901); DELETE FROM rope WHERE id = 900; DELETE FROM reel WHERE id = 901
-- as : INSERT INTO shed VALUES (901, 'Shed 901'); INSERT INTO tool VALUES (901, 901); DELETE FROM shed WHERE id = 901
-- as : UPDATE dock SET id = 3007 WHERE id = 7
-- as : INSERT INTO pier VALUES (901, 'Pier 901'); INSERT INTO plank VALUES (901, 901); DELETE FROM pier WHERE id = 901
CREATE TABLE station (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE gauge (id INTEGER NOT NULL PRIMARY KEY, station_id INTEGER NOT NULL);
CREATE TABLE reel (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE rope (id INTEGER NOT NULL PRIMARY KEY, reel_id INTEGER NOT NULL);
CREATE TABLE shed (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE tool (id INTEGER NOT NULL PRIMARY KEY, shed_id INTEGER NOT NULL);
CREATE TABLE dock (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, dock_id INTEGER NOT NULL);
CREATE TABLE pier (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE plank (id INTEGER NOT NULL PRIMARY KEY, pier_id INTEGER NOT NULL);
CREATE TABLE hull (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL);
CREATE TABLE mast (id INTEGER NOT NULL PRIMARY KEY, hull_id INTEGER NOT NULL);
COMMIT;
SET TERM ^;
EXECUTE BLOCK AS DECLARE i INTEGER = 1; BEGIN
  WHILE (i <= 200) DO BEGIN
    INSERT INTO station VALUES (:i, 'Station ' || :i); INSERT INTO reel VALUES (:i, 'Reel ' || :i); INSERT INTO shed VALUES (:i, 'Shed ' || :i);
    INSERT INTO dock VALUES (:i, 'Dock ' || :i); INSERT INTO pier VALUES (:i, 'Pier ' || :i); INSERT INTO hull VALUES (:i, 'Hull ' || :i);
    i = i + 1;
  END
  i = 1;
  WHILE (i <= 500) DO BEGIN
    INSERT INTO gauge VALUES (:i, MOD(:i, 200) + 1); INSERT INTO rope VALUES (:i, MOD(:i, 200) + 1); INSERT INTO tool VALUES (:i, MOD(:i, 200) + 1);
    INSERT INTO boat VALUES (:i, MOD(:i, 200) + 1); INSERT INTO plank VALUES (:i, MOD(:i, 200) + 1); INSERT INTO mast VALUES (:i, MOD(:i, 200) + 1);
    i = i + 1;
  END
END^
COMMIT^
CREATE PROCEDURE bring_in (n INTEGER) AS BEGIN INSERT INTO gauge VALUES (:n, :n); INSERT INTO station VALUES (:n, 'New'); END^
CREATE PROCEDURE take_out (n INTEGER) AS BEGIN DELETE FROM station WHERE id = :n; DELETE FROM gauge WHERE station_id = :n; END^
CREATE PROCEDURE renumber (a INTEGER, b INTEGER) AS BEGIN UPDATE station SET id = :b WHERE id = :a; UPDATE gauge SET station_id = :b WHERE station_id = :a; END^
CREATE TRIGGER brings FOR rope AFTER INSERT AS BEGIN IF (NOT EXISTS (SELECT 1 FROM reel WHERE id = NEW.reel_id)) THEN INSERT INTO reel VALUES (NEW.reel_id, 'New'); END^
CREATE TRIGGER clears FOR shed AFTER DELETE AS BEGIN DELETE FROM tool WHERE shed_id = OLD.id; END^
CREATE TRIGGER follows FOR dock BEFORE UPDATE AS BEGIN UPDATE boat SET dock_id = NEW.id WHERE dock_id = OLD.id; END^
CREATE TRIGGER planks FOR pier BEFORE DELETE AS BEGIN DELETE FROM plank WHERE pier_id = OLD.id; END^
SET TERM ;^
COMMIT;
