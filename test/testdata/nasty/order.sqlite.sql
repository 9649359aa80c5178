-- Triggers that bring and take along what nobody declared, afterwards: here the engine looks at references once the
-- statement is done with them, so that the foreign keys may come.
-- as : INSERT INTO rope (id, reel_id) VALUES (900, 901); UPDATE reel SET id = 902 WHERE id = 901; DELETE FROM reel WHERE id = 902
-- as : INSERT INTO tool (id, shed_id) VALUES (900, 7); DELETE FROM shed WHERE id = 7
CREATE TABLE reel (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
CREATE TABLE rope (id INTEGER PRIMARY KEY, reel_id INTEGER NOT NULL);
CREATE TABLE shed (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
CREATE TABLE tool (id INTEGER PRIMARY KEY, shed_id INTEGER NOT NULL);
CREATE INDEX rope_reel ON rope (reel_id); CREATE INDEX tool_shed ON tool (shed_id);
INSERT INTO reel (name) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) SELECT 'Reel ' || i FROM n;
INSERT INTO rope (reel_id) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 500) SELECT i % 200 + 1 FROM n;
INSERT INTO shed (name) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) SELECT 'Shed ' || i FROM n;
INSERT INTO tool (shed_id) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 500) SELECT i % 200 + 1 FROM n;
CREATE TRIGGER brings AFTER INSERT ON rope BEGIN INSERT OR IGNORE INTO reel VALUES (NEW.reel_id, 'New'); END;
CREATE TRIGGER clears AFTER DELETE ON reel BEGIN DELETE FROM rope WHERE reel_id = OLD.id; END;
CREATE TRIGGER follows BEFORE UPDATE OF id ON reel BEGIN UPDATE rope SET reel_id = NEW.id WHERE reel_id = OLD.id; END;
CREATE TRIGGER takes AFTER DELETE ON shed BEGIN DELETE FROM tool WHERE shed_id = OLD.id; END;
