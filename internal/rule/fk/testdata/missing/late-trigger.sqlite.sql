-- probe
-- accept all
-- the fix brings fk/enforcement-off: there was nothing to enforce before
-- the fix brings key/generated-only: nothing referred to it before
-- The engine looks at references once the statement is done with its triggers: what they bring and take along afterwards is in time.
CREATE TABLE reel (id INTEGER PRIMARY KEY, name TEXT NOT NULL);
CREATE TABLE rope (
  id INTEGER PRIMARY KEY,
  reel_id INTEGER NOT NULL -- want: fk/missing
);
CREATE INDEX rope_reel ON rope (reel_id);
INSERT INTO reel (name) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40) SELECT 'Reel ' || i FROM n;
INSERT INTO rope (reel_id) WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 200) SELECT i % 40 + 1 FROM n;
CREATE TRIGGER brings AFTER INSERT ON rope BEGIN INSERT OR IGNORE INTO reel VALUES (NEW.reel_id, 'New'); END;
CREATE TRIGGER clears AFTER DELETE ON reel BEGIN DELETE FROM rope WHERE reel_id = OLD.id; END;
CREATE TRIGGER follows BEFORE UPDATE OF id ON reel BEGIN UPDATE rope SET reel_id = NEW.id WHERE reel_id = OLD.id; END;
