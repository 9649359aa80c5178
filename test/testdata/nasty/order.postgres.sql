-- Programs that write tables in an order which a foreign key would refuse: the parts before the whole, the whole before its
-- parts, and triggers that bring or take along what nobody declared. Their references must stay as they are; others need not.
-- as : INSERT INTO tour (id) VALUES (901)
-- as : SELECT begins(901)
-- as : SELECT leaves(3)
-- as : SELECT arrives(901)
-- as : INSERT INTO wire VALUES (901, 901)
-- as : SELECT lift()
-- as : SELECT bring_in(1000); SELECT take_out(1000); SELECT renumber(5, 2005); SELECT renumber(2005, 5)
-- as : INSERT INTO rope (id, reel_id) VALUES (900, 901); DELETE FROM rope WHERE id = 900; DELETE FROM reel WHERE id = 901
-- as : INSERT INTO shed VALUES (901, 'Shed 901'); INSERT INTO tool VALUES (901, 901); DELETE FROM shed WHERE id = 901
-- as : UPDATE dock SET id = 3007 WHERE id = 7; UPDATE dock SET id = 7 WHERE id = 3007
-- as : SELECT all_at_once(1001); INSERT INTO pier VALUES (901, 'Pier 901'); INSERT INTO plank VALUES (901, 901); DELETE FROM pier WHERE id = 901
CREATE TABLE station (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE gauge (id int PRIMARY KEY, station_id int NOT NULL);
CREATE TABLE reel (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE rope (id int PRIMARY KEY, reel_id int NOT NULL);
CREATE TABLE shed (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE tool (id int PRIMARY KEY, shed_id int NOT NULL);
CREATE TABLE dock (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE boat (id int PRIMARY KEY, dock_id int NOT NULL);
CREATE TABLE pier (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE plank (id int PRIMARY KEY, pier_id int NOT NULL);
CREATE TABLE hull (id int PRIMARY KEY, name text NOT NULL);
CREATE TABLE mast (id int PRIMARY KEY, hull_id int NOT NULL);
INSERT INTO station SELECT i, 'Station ' || i FROM generate_series(1, 200) i;
INSERT INTO gauge SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO reel SELECT i, 'Reel ' || i FROM generate_series(1, 200) i;
INSERT INTO rope SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO shed SELECT i, 'Shed ' || i FROM generate_series(1, 200) i;
INSERT INTO tool SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO dock SELECT i, 'Dock ' || i FROM generate_series(1, 200) i;
INSERT INTO boat SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO pier SELECT i, 'Pier ' || i FROM generate_series(1, 200) i;
INSERT INTO plank SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
INSERT INTO hull SELECT i, 'Hull ' || i FROM generate_series(1, 200) i;
INSERT INTO mast SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE INDEX ON gauge (station_id); CREATE INDEX ON rope (reel_id); CREATE INDEX ON tool (shed_id); CREATE INDEX ON boat (dock_id); CREATE INDEX ON plank (pier_id); CREATE INDEX ON mast (hull_id);
CREATE FUNCTION bring_in(n int) RETURNS int LANGUAGE sql AS $$ INSERT INTO gauge VALUES (n, n); INSERT INTO station VALUES (n, 'New'); SELECT n $$;
CREATE FUNCTION take_out(n int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN EXECUTE format('DELETE FROM %I WHERE id = $1', 'station') USING n; DELETE FROM gauge WHERE station_id = n; RETURN n; END $$;
CREATE FUNCTION renumber(a int, b int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN UPDATE station SET id = b WHERE id = a; UPDATE gauge SET station_id = b WHERE station_id = a; RETURN b; END $$;
CREATE FUNCTION reel_of_rope() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO reel VALUES (NEW.reel_id, 'New') ON CONFLICT DO NOTHING; RETURN NULL; END $$;
CREATE TRIGGER brings AFTER INSERT ON rope FOR EACH ROW EXECUTE FUNCTION reel_of_rope();
CREATE FUNCTION tools_of_shed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN DELETE FROM tool WHERE shed_id = OLD.id; RETURN NULL; END $$;
CREATE TRIGGER clears AFTER DELETE ON shed FOR EACH ROW EXECUTE FUNCTION tools_of_shed();
CREATE FUNCTION boats_of_dock() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE boat SET dock_id = NEW.id WHERE dock_id = OLD.id; RETURN NEW; END $$;
CREATE TRIGGER follows BEFORE UPDATE OF id ON dock FOR EACH ROW EXECUTE FUNCTION boats_of_dock();
CREATE FUNCTION planks_of_pier() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN DELETE FROM plank WHERE pier_id = OLD.id; RETURN OLD; END $$;
CREATE TRIGGER clears BEFORE DELETE ON pier FOR EACH ROW EXECUTE FUNCTION planks_of_pier();
CREATE FUNCTION all_at_once(n int) RETURNS int LANGUAGE sql AS $$ INSERT INTO hull VALUES (n, 'New'); INSERT INTO mast VALUES (n, n); WITH gone AS (DELETE FROM hull WHERE id = n RETURNING id) DELETE FROM mast USING gone WHERE hull_id = gone.id; SELECT n $$;
CREATE TABLE spool (id int PRIMARY KEY, name text NOT NULL); CREATE TABLE wire (id int PRIMARY KEY, spool_id int NOT NULL); CREATE INDEX ON wire (spool_id);
INSERT INTO spool SELECT i, 'Spool ' || i FROM generate_series(1, 200) i; INSERT INTO wire SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE RULE brings AS ON INSERT TO wire DO ALSO INSERT INTO spool VALUES (NEW.spool_id, 'New') ON CONFLICT DO NOTHING;
CREATE TABLE stage (id int PRIMARY KEY, code text NOT NULL, level int NOT NULL); INSERT INTO stage SELECT i, 'c' || i, i FROM generate_series(1, 300) i;
CREATE FUNCTION lift() RETURNS int LANGUAGE plpgsql AS $$ BEGIN INSERT INTO stage SELECT id + 1000, code, level + 1 FROM stage WHERE level < 5; DELETE FROM stage a USING stage b WHERE a.code = b.code AND a.level < b.level; RETURN 1; END $$;
CREATE TABLE berth (pier int, no int, name text NOT NULL, PRIMARY KEY (pier, no)); INSERT INTO berth SELECT i, i % 7, 'B' FROM generate_series(1, 50) i;
CREATE TABLE ship (id int PRIMARY KEY, pier int, no int, name text NOT NULL, FOREIGN KEY (pier, no) REFERENCES berth (pier, no)); CREATE INDEX ON ship (pier, no);
INSERT INTO ship SELECT i, pier, no, 'x' FROM generate_series(1, 100) i JOIN berth ON pier = i % 50 + 1; INSERT INTO ship SELECT i, NULL, NULL, 'y' FROM generate_series(201, 220) i;
CREATE FUNCTION leaves(i int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN UPDATE ship SET no = NULL WHERE id = i; UPDATE ship SET pier = NULL WHERE id = i; RETURN i; END $$;
CREATE FUNCTION arrives(i int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN INSERT INTO ship (id, pier, name) VALUES (i, 3, 'z'); UPDATE ship SET no = 3 WHERE id = i; RETURN i; END $$;
CREATE TABLE pilot (id int PRIMARY KEY, name text NOT NULL); INSERT INTO pilot SELECT i, 'Pilot ' || i FROM generate_series(1, 200) i;
CREATE TABLE tour (id int PRIMARY KEY, pilot_id int NOT NULL DEFAULT 0); CREATE INDEX ON tour (pilot_id); INSERT INTO tour SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE TABLE watch (id int PRIMARY KEY, pilot_id int NOT NULL); CREATE INDEX ON watch (pilot_id); INSERT INTO watch SELECT i, i % 200 + 1 FROM generate_series(1, 500) i;
CREATE FUNCTION begins(i int) RETURNS int LANGUAGE plpgsql AS $$ BEGIN INSERT INTO watch (id, pilot_id) VALUES (i, -1); UPDATE watch SET pilot_id = 5 WHERE id = i; RETURN i; END $$;
